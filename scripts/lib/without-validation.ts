/**
 * Stands in the page's scripts for the packages that check documents: the server has checked whatever it gives the page, and
 * checks whatever the page sends. The build leaves the decorators out altogether; while the page is worked on they do nothing.
 */
const decorator = () => () => {};

export const Allow = decorator;
export const ArrayMaxSize = decorator;
export const ArrayMinSize = decorator;
export const Equals = decorator;
export const IsArray = decorator;
export const IsBoolean = decorator;
export const IsIn = decorator;
export const IsInt = decorator;
export const IsNotEmpty = decorator;
export const IsNumber = decorator;
export const IsObject = decorator;
export const IsOptional = decorator;
export const IsPositive = decorator;
export const IsString = decorator;
export const Matches = decorator;
export const Max = decorator;
export const MaxLength = decorator;
export const Min = decorator;
export const Transform = decorator;
export const Type = decorator;
export const ValidateBy = decorator;
export const ValidateIf = decorator;
export const ValidateNested = decorator;

/** Named by decorators that never run here. */
export const plainToInstance = (): never => {
  throw new Error('Documents are checked by the server.');
};
