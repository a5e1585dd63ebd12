CREATE FUNCTION sorvik.tell_changed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('sorvik_changed', TG_TABLE_NAME);
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER INSERT OR UPDATE OR DELETE ON sorvik.datasets FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER INSERT OR UPDATE OR DELETE ON sorvik.fields FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER INSERT OR UPDATE OR DELETE ON sorvik.boards FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();--> statement-breakpoint
CREATE TRIGGER tell_changed AFTER INSERT OR UPDATE OR DELETE ON sorvik.board_versions FOR EACH STATEMENT EXECUTE FUNCTION sorvik.tell_changed();
