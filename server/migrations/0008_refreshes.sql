ALTER TABLE sorvik.datasets ADD COLUMN places bigint NOT NULL DEFAULT 0;--> statement-breakpoint
ALTER TABLE sorvik.datasets ADD COLUMN shaped bigint NOT NULL DEFAULT 0;--> statement-breakpoint
UPDATE sorvik.datasets SET places = rows, shaped = version;--> statement-breakpoint
CREATE TABLE sorvik.dataset_versions (
  dataset text NOT NULL REFERENCES sorvik.datasets(id) ON DELETE CASCADE,
  seq integer NOT NULL,
  at timestamptz NOT NULL DEFAULT now(),
  kind text NOT NULL,
  number integer NOT NULL,
  places bigint NOT NULL,
  rows bigint NOT NULL,
  rows_in bigint NOT NULL DEFAULT 0,
  rows_out bigint NOT NULL DEFAULT 0,
  rejected bigint NOT NULL DEFAULT 0,
  source jsonb NOT NULL,
  fields jsonb,
  PRIMARY KEY (dataset, seq)
);--> statement-breakpoint
INSERT INTO sorvik.dataset_versions (dataset, seq, at, kind, number, places, rows, rows_in, rejected, source)
  SELECT id, 1, created_at, 'import', number, rows, rows, rows, rejected, source FROM sorvik.datasets WHERE connection IS NULL;--> statement-breakpoint
CREATE TABLE sorvik.staged (
  number integer PRIMARY KEY,
  at timestamptz NOT NULL DEFAULT now()
);
