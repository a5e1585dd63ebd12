CREATE TABLE sorvik.refresh_schedules (
  dataset text PRIMARY KEY REFERENCES sorvik.datasets(id) ON DELETE CASCADE,
  address text NOT NULL,
  mode text NOT NULL,
  by text,
  cadence text NOT NULL,
  zone text NOT NULL,
  etag text,
  modified text,
  digest text,
  next_at timestamptz,
  tried_at timestamptz,
  done_at timestamptz,
  changed_at timestamptz,
  problem text,
  failures integer NOT NULL DEFAULT 0
);--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER INSERT OR UPDATE OR DELETE ON sorvik.refresh_schedules FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();
