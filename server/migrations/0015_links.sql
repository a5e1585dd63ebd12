CREATE TABLE sorvik.links (
  id text PRIMARY KEY,
  hash text NOT NULL UNIQUE,
  board text NOT NULL REFERENCES sorvik.boards (id) ON DELETE CASCADE,
  name text NOT NULL,
  positions text NOT NULL DEFAULT '',
  fixed jsonb NOT NULL DEFAULT '[]',
  password text,
  made_by text,
  created_at timestamptz NOT NULL DEFAULT now(),
  ends_at timestamptz,
  uses integer NOT NULL DEFAULT 0,
  used_at timestamptz
);
--> statement-breakpoint
CREATE INDEX links_by_board ON sorvik.links (board);
--> statement-breakpoint
CREATE TABLE sorvik.visits (
  hash text PRIMARY KEY,
  link text NOT NULL REFERENCES sorvik.links (id) ON DELETE CASCADE,
  created_at timestamptz NOT NULL DEFAULT now()
);
--> statement-breakpoint
CREATE INDEX visits_by_link ON sorvik.visits (link);
--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER INSERT OR DELETE ON sorvik.links FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();
