DO $$
DECLARE
  rows_of record;
BEGIN
  SET LOCAL synchronize_seqscans = off;
  SET LOCAL max_parallel_workers_per_gather = 0;
  FOR rows_of IN
    SELECT c.relname AS name FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
    WHERE n.nspname = 'data' AND c.relkind = 'r' AND c.relname ~ '^d_[0-9]+$'
  LOOP
    EXECUTE format('CREATE TABLE data.%I WITH (autovacuum_enabled = false) AS SELECT *, row_number() OVER () - 1 AS "#place" FROM data.%I', rows_of.name || '_next', rows_of.name);
    EXECUTE format('ALTER TABLE data.%I ALTER COLUMN "#place" SET NOT NULL', rows_of.name || '_next');
    EXECUTE format('DROP TABLE data.%I', rows_of.name);
    EXECUTE format('ALTER TABLE data.%I RENAME TO %I', rows_of.name || '_next', rows_of.name);
    EXECUTE format('CREATE INDEX ON data.%I USING brin ("#place")', rows_of.name);
    EXECUTE format('ANALYZE data.%I', rows_of.name);
  END LOOP;
END $$;
