ALTER TABLE sorvik.dataset_versions ADD COLUMN began timestamptz NOT NULL DEFAULT now();--> statement-breakpoint
CREATE TABLE sorvik.push_tokens (
  id text PRIMARY KEY,
  dataset text NOT NULL REFERENCES sorvik.datasets(id) ON DELETE CASCADE,
  name text NOT NULL,
  hash text NOT NULL UNIQUE,
  created_at timestamptz NOT NULL DEFAULT now(),
  used_at timestamptz
);--> statement-breakpoint
CREATE TABLE sorvik.push_keys (
  dataset text NOT NULL REFERENCES sorvik.datasets(id) ON DELETE CASCADE,
  key text NOT NULL,
  at timestamptz NOT NULL DEFAULT now(),
  answer jsonb NOT NULL,
  PRIMARY KEY (dataset, key)
);
