ALTER TABLE "rig_revisions" ADD COLUMN "made_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "rig_revisions" ADD COLUMN "origin" json;--> statement-breakpoint
ALTER TABLE "studio_revisions" ADD COLUMN "made_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "studio_revisions" ADD COLUMN "origin" json;--> statement-breakpoint
ALTER TABLE "template_revisions" ADD COLUMN "made_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "template_revisions" ADD COLUMN "origin" json;