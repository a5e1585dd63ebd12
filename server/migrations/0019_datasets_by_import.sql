ALTER TABLE sorvik.datasets ADD COLUMN import_id text;
--> statement-breakpoint
CREATE UNIQUE INDEX datasets_by_import ON sorvik.datasets (import_id);
