ALTER TABLE "rigs" ADD COLUMN "summary" text;--> statement-breakpoint
ALTER TABLE "templates" ADD COLUMN "rig_id" text;--> statement-breakpoint
ALTER TABLE "templates" ADD COLUMN "summary" text;--> statement-breakpoint
ALTER TABLE "templates" ADD COLUMN "judged" text;--> statement-breakpoint
ALTER TABLE "templates" ADD COLUMN "problems" integer;--> statement-breakpoint
ALTER TABLE "templates" ADD COLUMN "hints" integer;--> statement-breakpoint
CREATE INDEX "templates_by_rig" ON "templates" USING btree ("rig_id") WHERE "templates"."deleted_at" is null;