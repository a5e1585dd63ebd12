import { registerDecorator, type ValidationOptions } from 'class-validator';
import { tell } from '../tell';

/** Whether a text is the origin of pages as browsers say it: a scheme, a host, and a port where it is not the usual one. */
export const isOrigin = (text: unknown): text is string =>
  typeof text === 'string' &&
  text.length <= 300 &&
  /^https?:\/\//.test(text) &&
  URL.canParse(text) &&
  new URL(text).origin === text;

/** Checks that a property is an origin. */
export const IsOrigin = (options?: ValidationOptions) => (object: object, propertyName: string) =>
  registerDecorator({
    name: 'isOrigin',
    target: object.constructor,
    propertyName,
    options: { message: () => tell('origin.wanted'), ...options },
    validator: { validate: isOrigin },
  });
