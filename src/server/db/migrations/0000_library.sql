CREATE TABLE "rig_revisions" (
	"rig_id" text NOT NULL,
	"number" integer NOT NULL,
	"document" json NOT NULL,
	"hash" text NOT NULL,
	"saved_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "rig_revisions_rig_id_number_pk" PRIMARY KEY("rig_id","number")
);
--> statement-breakpoint
CREATE TABLE "rigs" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"head" integer NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "template_revisions" (
	"template_id" text NOT NULL,
	"number" integer NOT NULL,
	"document" json NOT NULL,
	"hash" text NOT NULL,
	"commands" json NOT NULL,
	"names" json NOT NULL,
	"batch" text,
	"saved_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "template_revisions_template_id_number_pk" PRIMARY KEY("template_id","number")
);
--> statement-breakpoint
CREATE TABLE "templates" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"search" text NOT NULL,
	"head" integer NOT NULL,
	"created_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"changed_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp (3) with time zone
);
--> statement-breakpoint
ALTER TABLE "rig_revisions" ADD CONSTRAINT "rig_revisions_rig_id_rigs_id_fk" FOREIGN KEY ("rig_id") REFERENCES "public"."rigs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "template_revisions" ADD CONSTRAINT "template_revisions_template_id_templates_id_fk" FOREIGN KEY ("template_id") REFERENCES "public"."templates"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "template_revisions_batch" ON "template_revisions" USING btree ("template_id","batch");--> statement-breakpoint
CREATE INDEX "templates_by_change" ON "templates" USING btree ("changed_at" DESC NULLS LAST,"id") WHERE "templates"."deleted_at" is null;