ALTER TABLE "rig_revisions" ALTER COLUMN "document" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "studio_revisions" ALTER COLUMN "document" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "template_revisions" ALTER COLUMN "document" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "rig_revisions" ADD COLUMN "patches" json;--> statement-breakpoint
ALTER TABLE "studio_revisions" ADD COLUMN "patches" json;--> statement-breakpoint
ALTER TABLE "template_revisions" ADD COLUMN "patches" json;--> statement-breakpoint
ALTER TABLE "rig_revisions" ADD CONSTRAINT "rig_revisions_whole" CHECK ("document" IS NOT NULL OR "patches" IS NOT NULL);--> statement-breakpoint
ALTER TABLE "studio_revisions" ADD CONSTRAINT "studio_revisions_whole" CHECK ("document" IS NOT NULL OR "patches" IS NOT NULL);--> statement-breakpoint
ALTER TABLE "template_revisions" ADD CONSTRAINT "template_revisions_whole" CHECK ("document" IS NOT NULL OR "patches" IS NOT NULL);
