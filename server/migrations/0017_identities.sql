CREATE TABLE sorvik.identities (
  issuer text NOT NULL,
  subject text NOT NULL,
  person text NOT NULL REFERENCES sorvik.people (id) ON DELETE CASCADE,
  created_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (issuer, subject)
);
--> statement-breakpoint
CREATE INDEX identities_by_person ON sorvik.identities (person);
--> statement-breakpoint
ALTER TABLE sorvik.groups ADD COLUMN provided boolean NOT NULL DEFAULT false;
