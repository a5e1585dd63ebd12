import { Type } from 'class-transformer';
import { IsInt, IsNotEmpty, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';

export class NameInput {
  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  name!: string;
}

/** No dataset has so many rows. */
const mostRows = 1_000_000_000_000;

/** Which of many. */
export class PageQuery {
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  @Max(mostRows)
  offset = 0;

  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(1000)
  limit = 200;
}
