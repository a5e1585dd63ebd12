ALTER TABLE "sorvik"."board_versions" ADD COLUMN "name" text;--> statement-breakpoint
ALTER TABLE "sorvik"."boards" ADD COLUMN "published" integer;--> statement-breakpoint
ALTER TABLE "sorvik"."boards" ADD COLUMN "published_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "sorvik"."boards" ADD COLUMN "scratch_of" text;--> statement-breakpoint
ALTER TABLE "sorvik"."boards" ADD COLUMN "scratch_from" integer;--> statement-breakpoint
ALTER TABLE "sorvik"."fields" ADD COLUMN "formula" text;