ALTER TABLE "sorvik"."board_versions" ADD COLUMN "save_key" text;--> statement-breakpoint
CREATE UNIQUE INDEX "board_versions_by_key" ON "sorvik"."board_versions" USING btree ("board","save_key");
