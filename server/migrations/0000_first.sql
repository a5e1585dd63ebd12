CREATE SCHEMA "sorvik";
--> statement-breakpoint
CREATE TABLE "sorvik"."board_versions" (
	"board" text NOT NULL,
	"revision" integer NOT NULL,
	"document" jsonb NOT NULL,
	"saved_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "board_versions_board_revision_pk" PRIMARY KEY("board","revision")
);
--> statement-breakpoint
CREATE TABLE "sorvik"."boards" (
	"id" text PRIMARY KEY NOT NULL,
	"revision" integer DEFAULT 1 NOT NULL,
	"document" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "sorvik"."datasets" (
	"id" text PRIMARY KEY NOT NULL,
	"number" serial NOT NULL,
	"name" text NOT NULL,
	"version" bigint NOT NULL,
	"rows" bigint NOT NULL,
	"rejected" bigint DEFAULT 0 NOT NULL,
	"source" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "sorvik"."fields" (
	"dataset" text NOT NULL,
	"key" text NOT NULL,
	"name" text NOT NULL,
	"type" text NOT NULL,
	"place" integer NOT NULL,
	"profile" jsonb,
	CONSTRAINT "fields_dataset_key_pk" PRIMARY KEY("dataset","key")
);
--> statement-breakpoint
CREATE TABLE "sorvik"."import_rejects" (
	"dataset" text NOT NULL,
	"line" bigint NOT NULL,
	"column" text NOT NULL,
	"reason" text NOT NULL,
	"cells" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "sorvik"."board_versions" ADD CONSTRAINT "board_versions_board_boards_id_fk" FOREIGN KEY ("board") REFERENCES "sorvik"."boards"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sorvik"."fields" ADD CONSTRAINT "fields_dataset_datasets_id_fk" FOREIGN KEY ("dataset") REFERENCES "sorvik"."datasets"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sorvik"."import_rejects" ADD CONSTRAINT "import_rejects_dataset_datasets_id_fk" FOREIGN KEY ("dataset") REFERENCES "sorvik"."datasets"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "import_rejects_by_line" ON "sorvik"."import_rejects" USING btree ("dataset","line");