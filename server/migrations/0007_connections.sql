CREATE TABLE sorvik.connections (
	id text PRIMARY KEY,
	name text NOT NULL,
	host text NOT NULL,
	port integer NOT NULL,
	database text NOT NULL,
	user_name text NOT NULL,
	password text NOT NULL,
	tls text NOT NULL,
	authority text,
	seconds integer NOT NULL,
	most integer NOT NULL,
	created_at timestamp with time zone DEFAULT now() NOT NULL
);--> statement-breakpoint
ALTER TABLE sorvik.datasets ADD COLUMN connection text REFERENCES sorvik.connections (id);--> statement-breakpoint
ALTER TABLE sorvik.datasets ADD COLUMN relation jsonb;--> statement-breakpoint
ALTER TABLE sorvik.fields ADD COLUMN "column" jsonb;--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER INSERT OR UPDATE OR DELETE ON sorvik.connections FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();
