ALTER TABLE sorvik.fields ADD COLUMN profiled jsonb;--> statement-breakpoint
UPDATE sorvik.fields SET profiled = (SELECT jsonb_build_object('shaped', shaped, 'places', places, 'rows', rows) FROM sorvik.datasets WHERE id = dataset) WHERE profile IS NOT NULL;
