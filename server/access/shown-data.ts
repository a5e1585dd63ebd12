import type { DatasetView } from '@sorvik/core/board/api-types';
import { datasetsOf } from '@sorvik/core/board/board';
import type { CubeRequest } from '@sorvik/core/data/cube';
import type { Kept } from '@sorvik/core/data/kept';
import { fieldsNamed } from '@sorvik/core/edit/board-file';
import { type BoardQuestions, boardQuestions } from '@sorvik/core/pipeline/board-questions';
import { fullEngine } from '@sorvik/formula/full-engine';
import { and, eq, inArray, isNull, or } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { shownBoard } from '../boards/versions';
import { datasetInfos } from '../datasets/store';
import type { Database } from '../db/client';
import { boards, rights } from '../db/schema';
import { HttpProblem } from '../http/problem';
import { tell } from '../tell';
import type { ShownLimits } from './needs';
import { heldBy } from './roles';

/** What boards that somebody may see show of a dataset: its viewers reach that and nothing else of it. */
export class ShownData implements ShownLimits {
  constructor(
    private readonly fields: ReadonlySet<string>,
    private readonly questions: readonly BoardQuestions[],
  ) {}

  need(question: CubeRequest & { kept?: readonly Kept[] }): void {
    if (!this.questions.some(({ has }) => has(question)))
      throw new HttpProblem(403, 'not-allowed', tell('access.notShown'));
  }

  needListed(field: string): void {
    if (!this.questions.some(({ listed }) => listed.has(field)))
      throw new HttpProblem(403, 'not-allowed', tell('access.notShown'));
  }

  /** The description of a dataset without what no board of theirs shows. */
  cut({ schedule: _schedule, inPlace: _inPlace, copy: _copy, ...view }: DatasetView): DatasetView {
    return {
      ...view,
      rejected: 0,
      boards: [],
      source: { file: '', notes: [] } as never,
      fields: view.fields
        .filter(({ key }) => this.fields.has(key))
        .map(({ formula: _formula, lookup: _lookup, ...field }) => field),
    };
  }
}

/** Who sees boards: a person, by their rights, and whoever has come by links, those of the links. */
export interface Seer {
  person: string | null;
  boards: readonly string[];
}

/** What boards show of datasets to whoever may see the boards and not the datasets. */
export class ShownThroughBoards {
  private readonly known = new LRUCache<string, Promise<ShownData | null>>({ max: 5000 });

  constructor(
    private readonly database: Database,
    /** Whether a person may see a dataset. */
    private readonly maySee: (person: string, dataset: string) => Promise<boolean>,
  ) {
    database.changes.on(() => this.known.clear());
  }

  /** null where no board that somebody may see shows anything of a dataset. */
  of(seer: Seer, dataset: string): Promise<ShownData | null> {
    const name = JSON.stringify([seer.person, seer.boards, dataset]);
    const known = this.database.changes.listening ? this.known.get(name) : undefined;
    if (known) return known;
    const found = this.find(seer, dataset);
    this.known.set(name, found);
    found.catch(() => this.known.delete(name));
    return found;
  }

  private async find({ person, boards: linked }: Seer, dataset: string): Promise<ShownData | null> {
    const { db } = this.database;
    const [info] = await datasetInfos(db, [dataset]);
    if (!info) return null;
    const held =
      person === null
        ? undefined
        : inArray(
            boards.id,
            db
              .select({ id: rights.thing })
              .from(rights)
              .where(and(eq(rights.kind, 'board'), heldBy(db, person))),
          );
    const seen = await db
      .select({ id: boards.id, by: boards.publishedBy })
      .from(boards)
      .where(and(isNull(boards.deletedAt), or(held, inArray(boards.id, [...linked]))));
    const fields = new Set<string>();
    const questions: BoardQuestions[] = [];
    for (const { id, by } of seen) {
      // Nobody shows others what they may not see themselves: not by making a board of it, nor by publishing one.
      if (by === null || !(await this.maySee(by, dataset))) continue;
      const shown = await shownBoard(db, id);
      if (!datasetsOf(shown.document).includes(dataset)) continue;
      questions.push(boardQuestions(shown.document, info, fullEngine));
      for (const key of fieldsNamed(shown.document, dataset, fullEngine)) fields.add(key);
    }
    return questions.length ? new ShownData(fields, questions) : null;
  }
}
