-- Where charts of a board may be shown: pages of these origins.
ALTER TABLE sorvik.links ADD COLUMN origins jsonb NOT NULL DEFAULT '[]'::jsonb;
