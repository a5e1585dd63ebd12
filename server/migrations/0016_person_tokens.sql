CREATE TABLE sorvik.person_tokens (
  id text PRIMARY KEY,
  hash text NOT NULL UNIQUE,
  person text NOT NULL REFERENCES sorvik.people (id) ON DELETE CASCADE,
  name text NOT NULL,
  scope text NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now(),
  used_at timestamptz,
  ends_at timestamptz NOT NULL
);
--> statement-breakpoint
CREATE INDEX person_tokens_by_person ON sorvik.person_tokens (person);
--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER DELETE ON sorvik.person_tokens FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();
