ALTER TABLE sorvik.fields ADD COLUMN lookup jsonb;
