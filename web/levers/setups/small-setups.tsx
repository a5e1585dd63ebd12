import { type ClockLever, type ClockPosition, clockAt, mostSpeed } from '@sorvik/core/levers/clock';
import type { SwitchLever } from '@sorvik/core/levers/switch';
import { type WindowLever, type WindowPosition, windowStarts } from '@sorvik/core/levers/window';
import { clockUnits, isZone, localFromText } from '@sorvik/core/levers/zone-time';
import { useState } from 'react';
import { tell } from '../../ui/tell';
import { CheckField, Fields, FigureField, plainOptions, SelectField, TextField } from './fields';
import type { SetUpProps } from './setup-kind';

/** The two words of a switch. */
export function SwitchSetUp({ lever, change }: SetUpProps<SwitchLever, boolean>) {
  return (
    <Fields>
      {(['on', 'off'] as const).map((which) => (
        <TextField
          key={which}
          label={tell('levers.smallSetups.whenWhichItReads', { which })}
          value={lever[which]}
          onTake={(text) =>
            change((draft) => {
              if (text.trim()) draft[which] = text.trim().slice(0, 40);
            })
          }
        />
      ))}
    </Fields>
  );
}

/** The length of a window, where it starts, and whether viewers may change it. */
export function WindowSetUp({ lever, change }: SetUpProps<WindowLever, WindowPosition>) {
  return (
    <Fields>
      <FigureField
        label={tell('levers.smallSetups.visiblePeriods')}
        value={lever.length}
        accept={(n) =>
          Number.isInteger(n) && n >= 1 && n <= 1_000_000
            ? undefined
            : tell('levers.smallSetups.enterAWholeNumber')
        }
        onTake={(length) =>
          change((draft) => {
            draft.length = length;
          })
        }
      />
      <SelectField
        label={tell('levers.smallSetups.counts')}
        value={lever.counts ?? 'present'}
        options={[
          { value: 'present', text: tell('levers.smallSetups.whatThereIs') },
          { value: 'calendar', text: tell('levers.smallSetups.periodsOfTheCalendar') },
        ]}
        onTake={(counts) =>
          change((draft) => {
            draft.counts = counts;
          })
        }
      />
      <SelectField
        label={tell('levers.smallSetups.startPosition')}
        value={typeof lever.start === 'string' ? lever.start : 'here'}
        options={[
          ...plainOptions(windowStarts),
          ...(typeof lever.start === 'object'
            ? [{ value: 'here' as const, text: `${lever.start.from}` }]
            : []),
        ]}
        onTake={(start) =>
          change((draft) => {
            if (start !== 'here') draft.start = start;
          })
        }
      />
      <CheckField
        label={tell('levers.smallSetups.viewersMayChangeThisNumber')}
        value={lever.resizable ?? false}
        onTake={(resizable) =>
          change((draft) => {
            draft.resizable = resizable;
          })
        }
      />
    </Fields>
  );
}

const usualZones = ['UTC', 'Europe/London', 'Europe/Paris', 'America/New_York', 'Asia/Tokyo'];

/** The unit and zone of a clock; and a time to hold it at, to see what it will do. */
export function ClockSetUp({ lever, position, change, move }: SetUpProps<ClockLever, ClockPosition>) {
  const [zoneProblem, setZoneProblem] = useState<string>();
  const [timeProblem, setTimeProblem] = useState<string>();
  const { hold } = position;
  const holdAt = (at: string, speed: number) =>
    move(clockAt(lever, { at, speed, since: Date.now() }, Date.now()));
  return (
    <Fields>
      <SelectField
        label={tell('levers.smallSetups.showsThe')}
        value={lever.unit}
        options={plainOptions(clockUnits)}
        onTake={(unit) =>
          change((draft) => {
            draft.unit = unit;
          })
        }
      />
      <TextField
        label={tell('levers.smallSetups.timeZone')}
        value={lever.zone}
        placeholder={usualZones[0]!}
        problem={zoneProblem}
        onTake={(zone) => {
          const known = isZone(zone.trim());
          setZoneProblem(
            known
              ? undefined
              : tell('levers.smallSetups.notATimeZone', { example: usualZones.slice(0, 3).join(', ') }),
          );
          if (known)
            change((draft) => {
              draft.zone = zone.trim();
            });
        }}
      />
      <TextField
        label={tell('levers.smallSetups.testTime')}
        value={hold?.at ?? ''}
        placeholder={position.now}
        problem={timeProblem}
        onTake={(text) => {
          const at = text.trim().replace(' ', 'T');
          if (at === '') return move(clockAt(lever, null, Date.now()));
          const known = localFromText(at);
          setTimeProblem(known ? undefined : tell('levers.smallSetups.aTimeAs'));
          if (known) holdAt(at, hold?.speed ?? 0);
        }}
      />
      {hold && (
        <>
          <FigureField
            label={tell('levers.smallSetups.testSpeedPaused')}
            value={hold.speed}
            accept={(speed) =>
              speed >= 0 && speed <= mostSpeed
                ? undefined
                : tell('levers.smallSetups.fromToMostspeed', { mostSpeed })
            }
            onTake={(speed) => holdAt(position.now, speed)}
          />
          <button
            type="button"
            className="btn btn-sm btn-outline-secondary"
            onClick={() => move(clockAt(lever, null, Date.now()))}
          >
            {tell('levers.smallSetups.backToTheRealTime')}
          </button>
        </>
      )}
    </Fields>
  );
}
