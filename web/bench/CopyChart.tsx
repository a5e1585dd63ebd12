import type { Board } from '@sorvik/core/board/board';
import type { Chart } from '@sorvik/core/board/chart';
import { copyChartTo, leversOf, standIns } from '@sorvik/core/edit/copy-chart';
import { produce } from 'immer';
import { useState } from 'react';
import { createPatch } from 'rfc6902';
import { problemText } from '../app/api';
import { useBoardsQuery, usePatchBoardMutation } from '../app/editing-api';
import { noticed } from '../app/notices-slice';
import { useAppDispatch, useAppSelector } from '../app/store';
import { SelectField } from '../levers/setups/fields';
import { DropButton } from '../ui/DropButton';
import { OptionList } from '../ui/OptionList';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

const along = '';

/** Puts a copy of a chart on another board, with its levers or with levers that are there already. */
export function CopyChart({ board, chart }: { board: Board; chart: Chart }) {
  const dispatch = useAppDispatch();
  const openId = useAppSelector((state) => state.board.id);
  const { data: boards = [] } = useBoardsQuery();
  const [patchBoard, { isLoading }] = usePatchBoardMutation();
  const [targetId, setTargetId] = useState<string>();
  const [use, setUse] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<string>();
  const others = boards.filter(({ id }) => id !== openId);
  const target = others.find(({ id }) => id === targetId);
  const levers = leversOf(chart, board);
  const choose = (id: string) => {
    const there = others.find((each) => each.id === id)!.document;
    setTargetId(id);
    // What is there under the same name does the same work, most likely.
    setUse(
      Object.fromEntries(
        levers.map((lever) => {
          const first = standIns(lever, there)[0];
          return [lever.id, first?.name === lever.name ? first.id : along];
        }),
      ),
    );
  };
  const copy = async (close: () => void) => {
    if (!target) return;
    const chosen = new Map(Object.entries(use).filter(([, id]) => id !== along));
    const next = produce(target.document, (draft) => void copyChartTo(draft, chart, board, chosen));
    const patch = createPatch(target.document, next);
    const result = await patchBoard({ id: target.id, revision: target.revision, patch });
    if (result.error) return setProblem(problemText(result.error));
    dispatch(
      noticed({ text: tell('bench.copyChart.theChartIsOnDocument', { document: target.document.title }) }),
    );
    close();
  };
  return (
    <DropButton
      label={tell('bench.copyChart.copyToBoard')}
      title={tell('bench.copyChart.copyThisChartToAnother')}
      placement="top-end"
    >
      {(close) => (
        <div className="sv-two">
          <div>
            <p className="sv-editor-head">{tell('bench.copyChart.putACopyOn')}</p>
            {others.length ? (
              <OptionList
                label={tell('bench.copyChart.board')}
                options={others.map(({ id, document }) => ({ value: id, text: document.title }))}
                chosen={targetId}
                onChoose={choose}
              />
            ) : (
              <p className="sv-none">{tell('bench.copyChart.thereIsNoOtherBoard')}</p>
            )}
          </div>
          {target && (
            <div className="sv-fields">
              <p className="sv-editor-head">
                {levers.length ? tell('bench.copyChart.itsLevers') : tell('bench.copyChart.itUsesNoLever')}
              </p>
              {levers.map((lever) => (
                <SelectField
                  key={lever.id}
                  label={lever.name}
                  value={use[lever.id] ?? along}
                  options={[
                    { value: along, text: tell('bench.copyChart.copyTheLeverToo') },
                    ...standIns(lever, target.document).map(({ id, name }) => ({
                      value: id,
                      text: tell('bench.copyChart.nameOfThatBoard', { name }),
                    })),
                  ]}
                  onTake={(id) => setUse({ ...use, [lever.id]: id })}
                />
              ))}
              {problem && <Problem>{problem}</Problem>}
              <button
                type="button"
                className="btn btn-sm btn-primary"
                disabled={isLoading}
                onClick={() => copy(close)}
              >
                {tell('bench.copyChart.copy')}
              </button>
            </div>
          )}
        </div>
      )}
    </DropButton>
  );
}
