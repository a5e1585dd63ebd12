import { IsBoolean } from 'class-validator';
import { IsId } from '../board/id';
import { IsOptional } from '../board/validation';

/** What every guide has, whatever it draws. */
export class GuideBase {
  @IsId()
  id!: string;

  /** A switch while which is on it is drawn. */
  @IsOptional()
  @IsId()
  when?: string;

  /** Switched off without being deleted. */
  @IsOptional()
  @IsBoolean()
  off?: boolean;
}
