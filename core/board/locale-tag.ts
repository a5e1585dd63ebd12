import { Own } from './validation';

/** Languages and regions as tags name them: "de", "en-GB", "zh-Hant-TW", with what follows them. */
const pattern = '^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$';

const isLocaleTag = (value: unknown): boolean => {
  if (typeof value !== 'string' || value.length > 35 || !new RegExp(pattern).test(value)) return false;
  try {
    return Intl.getCanonicalLocales(value).length === 1;
  } catch {
    return false;
  }
};

/** A language tag (BCP 47). */
export const IsLocale = () =>
  Own({
    name: 'isLocale',
    validate: isLocaleTag,
    message: 'check.language',
    schema: { type: 'string', maxLength: 35, pattern },
  });
