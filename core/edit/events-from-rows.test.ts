import { expect, it } from 'vitest';
import { eventsFromRows, mostEvents } from './events-from-rows';

const listed = [{ id: 'storm', name: 'Storm', date: '2021-01-05' }];
it('each name and day is one event; those listed, and rows without either, are left out', () => {
  const rows = [
    ['Storm', '2021-01-05'],
    ['Storm', '2022-02-01'],
    ['Storm', '2022-02-01'],
    [null, '2022-03-01'],
    ['New pier', null],
    [' New pier ', '2021-05-01T08:30:00'],
    ['Timetable', '31 June'],
  ];
  expect(eventsFromRows(rows, 0, 1, listed)).toEqual([
    { id: 'storm-2', name: 'Storm', date: '2022-02-01' },
    { id: 'new-pier', name: 'New pier', date: '2021-05-01' },
  ]);
});
it('there are never more than a board can list', () => {
  const rows = Array.from({ length: 1000 }, (_, i) => [`Event ${i}`, '2021-01-01']);
  expect(eventsFromRows(rows, 0, 1, listed)).toHaveLength(mostEvents - 1);
});
