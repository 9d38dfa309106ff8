CREATE TABLE "studio_revisions" (
	"studio_id" text NOT NULL,
	"number" integer NOT NULL,
	"document" json NOT NULL,
	"hash" text NOT NULL,
	"commands" json NOT NULL,
	"names" json NOT NULL,
	"batch" text,
	"saved_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "studio_revisions_studio_id_number_pk" PRIMARY KEY("studio_id","number")
);
--> statement-breakpoint
CREATE TABLE "studios" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"head" integer NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"changed_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp (3) with time zone
);
--> statement-breakpoint
ALTER TABLE "rig_revisions" ADD COLUMN "commands" json DEFAULT '[]'::json NOT NULL;--> statement-breakpoint
ALTER TABLE "rig_revisions" ADD COLUMN "names" json DEFAULT '[]'::json NOT NULL;--> statement-breakpoint
ALTER TABLE "rig_revisions" ADD COLUMN "batch" text;--> statement-breakpoint
ALTER TABLE "rigs" ADD COLUMN "changed_at" timestamp (3) with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "rigs" ADD COLUMN "deleted_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "studio_revisions" ADD CONSTRAINT "studio_revisions_studio_id_studios_id_fk" FOREIGN KEY ("studio_id") REFERENCES "public"."studios"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "studio_revisions_batch" ON "studio_revisions" USING btree ("studio_id","batch");--> statement-breakpoint
CREATE UNIQUE INDEX "rig_revisions_batch" ON "rig_revisions" USING btree ("rig_id","batch");--> statement-breakpoint
CREATE TRIGGER studio_revisions_immutable BEFORE UPDATE OR DELETE ON studio_revisions FOR EACH ROW EXECUTE FUNCTION refuse_change();
