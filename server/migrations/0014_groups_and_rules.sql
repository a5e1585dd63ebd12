CREATE TABLE sorvik.groups (
  id text PRIMARY KEY,
  name text NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now()
);
--> statement-breakpoint
CREATE UNIQUE INDEX groups_by_name ON sorvik.groups (lower(name));
--> statement-breakpoint
CREATE TABLE sorvik.members (
  "group" text NOT NULL REFERENCES sorvik.groups (id) ON DELETE CASCADE,
  person text NOT NULL REFERENCES sorvik.people (id) ON DELETE CASCADE,
  PRIMARY KEY ("group", person)
);
--> statement-breakpoint
CREATE INDEX members_by_person ON sorvik.members (person);
--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER INSERT OR UPDATE OR DELETE ON sorvik.groups FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();
--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER INSERT OR UPDATE OR DELETE ON sorvik.members FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();
--> statement-breakpoint
ALTER TABLE sorvik.datasets ADD COLUMN row_rule text;
