import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planColumns, widened } from './column-plan';
import { type DateOrder, dateOrdersOf, dateReader, dateTimeReader } from './date-format';
import { columnNames, fieldKeys } from './field-keys';
import { separatorOf } from './inspect';
import {
  decimalReader,
  integerReader,
  type NumberFormat,
  numberFormats,
  numberFormatsOf,
} from './number-format';

/** Writes a number the way a format does. */
function write(value: number, { decimal, group }: NumberFormat, decimals: number): string {
  const [whole = '', fraction] = Math.abs(value).toFixed(decimals).split('.');
  const marked = group ? whole.replace(/\B(?=(\d{3})+$)/g, group) : whole;
  return `${value < 0 ? '-' : ''}${marked}${fraction ? decimal + fraction : ''}`;
}

describe('numbers', () => {
  it('written in any format are read back', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...numberFormats),
        fc.integer({ min: -999_999_999, max: 999_999_999 }),
        fc.integer({ min: 0, max: 4 }),
        (format, units, decimals) => {
          const value = units / 10 ** decimals;
          expect(Number(decimalReader(format)(write(value, format, decimals)))).toBeCloseTo(value, 6);
          if (decimals === 0) expect(Number(integerReader(format)(write(units, format, 0)))).toBe(units);
        },
      ),
    );
  });

  it('of a whole column give away their format', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...numberFormats),
        fc.array(fc.integer({ min: 1, max: 99_999_999 }), { minLength: 1 }),
        (format, units) => {
          const cells = units.map((unit) => write(unit / 100, format, 2));
          expect(numberFormatsOf(cells).map((found) => found.format)).toContainEqual(
            expect.objectContaining({ decimal: format.decimal }),
          );
        },
      ),
    );
  });

  it.each([
    '',
    ' ',
    '1.2.3',
    '1,23,4',
    '--1',
    '1e',
    'e5',
    '.',
    '1 2',
    '0x10',
    'NaN',
    'Infinity',
    '1e999',
    '٣',
  ])('are not "%s"', (cell) => {
    for (const format of numberFormats.slice(0, 4)) expect(decimalReader(format)(cell)).toBeUndefined();
  });

  it('may have a space of any kind between thousands', () => {
    for (const space of [' ', '\u00a0', '\u2009', '\u202f'])
      expect(integerReader({ decimal: ',', group: ' ' })(`1${space}234${space}567`)).toBe('1234567');
  });

  it('are no codes and no card numbers', () => {
    expect(numberFormatsOf(['0123', '4567'])).toEqual([]);
    expect(numberFormatsOf(['4929123412341234'])).toEqual([]);
    expect(numberFormatsOf(['0', '0.5', '-0.25'])).not.toEqual([]);
  });
});

describe('dates', () => {
  const anyDay = fc.date({
    min: new Date('1950-01-01T00:00:00Z'),
    max: new Date('2049-12-31T00:00:00Z'),
    noInvalidDate: true,
  });
  const parts = (date: Date) => {
    const iso = date.toISOString();
    return {
      iso: iso.slice(0, 10),
      y: iso.slice(0, 4),
      m: iso.slice(5, 7),
      d: iso.slice(8, 10),
      time: iso.slice(11, 19),
    };
  };
  const spellings: [DateOrder, (p: ReturnType<typeof parts>) => string][] = [
    ['ymd', ({ iso }) => iso],
    ['ymd', ({ y, m, d }) => `${y}/${Number(m)}/${Number(d)}`],
    ['dmy', ({ y, m, d }) => `${d}/${m}/${y}`],
    ['dmy', ({ y, m, d }) => `${Number(d)}.${Number(m)}.${y}`],
    ['dmy', ({ y, m, d }) => `${d}-${m}-${y.slice(2)}`],
    ['mdy', ({ y, m, d }) => `${m}/${d}/${y}`],
    ['mdy', ({ y, m, d }) => `${Number(m)}-${Number(d)}-${y.slice(2)}`],
  ];

  it('in any spelling are read back', () => {
    fc.assert(
      fc.property(anyDay, fc.constantFrom(...spellings), (date, [order, spell]) => {
        const p = parts(date);
        expect(dateReader(order)(spell(p))).toBe(p.iso);
        expect(dateTimeReader(order)(`${spell(p)} ${p.time}`)).toBe(`${p.iso} ${p.time}`);
      }),
    );
  });

  it('agree with the calendar on which days there are', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1900, max: 2100 }),
        fc.integer({ min: 0, max: 13 }),
        fc.integer({ min: 0, max: 32 }),
        (y, m, d) => {
          const text = `${y}-${String(m).padStart(2, '0')}-${String(d).padStart(2, '0')}`;
          const date = new Date(`${text}T00:00:00Z`);
          const exists = !Number.isNaN(date.getTime()) && date.toISOString().startsWith(text);
          expect(dateReader('ymd')(text)).toBe(exists ? text : undefined);
        },
      ),
      { numRuns: 1000 },
    );
  });

  it('with month names and halves of the day', () => {
    expect(dateReader('dmy')('4 Mar 2021')).toBe('2021-03-04');
    expect(dateReader('mdy')('March 4, 2021')).toBe('2021-03-04');
    expect(dateTimeReader('ymd')('2021-03-04 12:00 PM')).toBe('2021-03-04 12:00:00');
    expect(dateTimeReader('ymd')('2021-03-04 12:30 AM')).toBe('2021-03-04 00:30:00');
    expect(dateTimeReader('ymd')('2021-03-04 13:00 PM')).toBeUndefined();
    expect(dateTimeReader('ymd')('2021-03-04T23:59:59.123456Z')).toBe('2021-03-04 23:59:59.123456');
    expect(dateTimeReader('ymd')('2021-01-01 00:30+01:00')).toBe('2020-12-31 23:30:00');
    expect(dateTimeReader('ymd')('2021-03-04 24:00')).toBeUndefined();
  });

  it('that fit both ways are told as such, but not with full stops', () => {
    expect(dateOrdersOf(['01/02/2021', '03/04/2021']).orders).toEqual(['dmy', 'mdy']);
    expect(dateOrdersOf(['01/02/2021', '13/04/2021']).orders).toEqual(['dmy']);
    expect(dateOrdersOf(['01/02/2021', '04/13/2021']).orders).toEqual(['mdy']);
    expect(dateOrdersOf(['01.02.2021']).orders).toEqual(['dmy']);
    expect(dateOrdersOf(['2021-02-01']).orders).toEqual(['ymd']);
    expect(dateOrdersOf(['soon']).orders).toEqual([]);
    expect(dateOrdersOf(['2021-02-01 10:00', '2021-02-02 11:00'])).toEqual({ orders: ['ymd'], time: true });
  });
});

describe('the plan of a file', () => {
  const plan = (columns: string[][], separator = ',') =>
    planColumns(
      columns.map((_, i) => `c${i}`),
      columns,
      separator,
    );

  it('lets columns without doubt decide for those with', () => {
    const [doubtful, clear] = plan([
      ['1.234', '5.678'],
      ['1,5', '2,25'],
    ]);
    expect(clear).toMatchObject({ type: 'decimal', number: { decimal: ',' } });
    expect(doubtful).toMatchObject({ type: 'integer', number: { group: '.' } });
  });
  it('takes the separator for a hint', () => {
    expect(plan([['1.234']], ';')[0]).toMatchObject({ type: 'integer' });
    expect(plan([['1.234']], ',')[0]).toMatchObject({ type: 'decimal' });
  });
  it('forgives one slip in twenty, and no more', () => {
    const numbers = Array.from({ length: 39 }, (_, i) => String(i));
    expect(plan([[...numbers, 'oops']])[0]!.type).toBe('integer');
    expect(plan([[...numbers, 'a', 'b', 'c', 'd']])[0]!.type).toBe('text');
    expect(plan([['1', '2', 'oops']])[0]!.type).toBe('text');
  });
  it('has text where there is nothing', () => {
    expect(plan([[]])[0]!.type).toBe('text');
  });
  it('widens step by step', () => {
    const [whole] = plan([['1', '2']]);
    const decimal = widened(whole!, '2.5');
    expect(decimal.type).toBe('decimal');
    expect(widened(decimal, 'x').type).toBe('text');
    const [day] = plan([['2021-01-01']]);
    expect(widened(day!, '2021-01-01 10:00').type).toBe('datetime');
  });
});

it('the separator is the one that cuts all rows alike', () => {
  const cells = fc.array(fc.stringMatching(/^[a-z ]{1,8}$/), { minLength: 2, maxLength: 6 });
  fc.assert(
    fc.property(
      fc.constantFrom(',', ';', '\t', '|'),
      cells,
      fc.integer({ min: 2, max: 20 }),
      (separator, row, count) => {
        expect(separatorOf(Array(count).fill(row.join(separator)).join('\n'))).toBe(separator);
      },
    ),
  );
  expect(separatorOf('a;b\n1,5;2,5\n3,5;4,5\n')).toBe(';');
  expect(separatorOf('only\none\ncolumn\n')).toBe(',');
});

it('keys of fields are usable, short and each once', () => {
  fc.assert(
    fc.property(fc.array(fc.string({ maxLength: 80 }), { maxLength: 30 }), (head) => {
      const { names } = columnNames(head);
      expect(new Set(names.map((name) => name.toLowerCase())).size).toBe(names.length);
      const keys = fieldKeys(names);
      expect(new Set(keys).size).toBe(keys.length);
      for (const key of keys) expect(key).toMatch(/^[a-z][a-z0-9_]{0,62}$/);
    }),
  );
  expect(fieldKeys(['Load factor %', 'Läge', '2019', '%%'])).toEqual([
    'load_factor',
    'lage',
    'f_2019',
    'field_4',
  ]);
});
