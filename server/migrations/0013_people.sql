CREATE TABLE sorvik.people (
  id text PRIMARY KEY,
  email text NOT NULL,
  name text NOT NULL,
  password text,
  owner boolean NOT NULL DEFAULT false,
  off boolean NOT NULL DEFAULT false,
  created_at timestamptz NOT NULL DEFAULT now()
);
--> statement-breakpoint
CREATE UNIQUE INDEX people_by_email ON sorvik.people (lower(email));
--> statement-breakpoint
CREATE TABLE sorvik.sessions (
  id text PRIMARY KEY,
  hash text NOT NULL UNIQUE,
  person text NOT NULL REFERENCES sorvik.people (id) ON DELETE CASCADE,
  created_at timestamptz NOT NULL DEFAULT now(),
  used_at timestamptz NOT NULL DEFAULT now(),
  agent text NOT NULL,
  address text NOT NULL
);
--> statement-breakpoint
CREATE INDEX sessions_by_person ON sorvik.sessions (person);
--> statement-breakpoint
CREATE TABLE sorvik.invitations (
  hash text PRIMARY KEY,
  person text REFERENCES sorvik.people (id) ON DELETE CASCADE,
  owner boolean NOT NULL DEFAULT false,
  made_by text,
  created_at timestamptz NOT NULL DEFAULT now(),
  ends_at timestamptz NOT NULL
);
--> statement-breakpoint
CREATE TABLE sorvik.rights (
  kind text NOT NULL,
  thing text NOT NULL,
  grantee text NOT NULL,
  role text NOT NULL,
  made_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (kind, thing, grantee)
);
--> statement-breakpoint
CREATE INDEX rights_by_grantee ON sorvik.rights (grantee);
--> statement-breakpoint
CREATE TABLE sorvik.audit (
  id bigserial PRIMARY KEY,
  at timestamptz NOT NULL DEFAULT now(),
  person text,
  name text,
  action text NOT NULL,
  thing text,
  detail jsonb NOT NULL DEFAULT '{}',
  address text NOT NULL
);
--> statement-breakpoint
CREATE FUNCTION sorvik.only_appended() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'what was written into the audit trail stays';
END
$$;
--> statement-breakpoint
CREATE TRIGGER audit_only_appended BEFORE UPDATE OR DELETE ON sorvik.audit
  FOR EACH ROW EXECUTE FUNCTION sorvik.only_appended();
--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER INSERT OR UPDATE OR DELETE ON sorvik.people FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();
--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER INSERT OR UPDATE OR DELETE ON sorvik.rights FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();
--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER DELETE ON sorvik.sessions FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();
--> statement-breakpoint
ALTER TABLE sorvik.boards ADD COLUMN published_by text;
