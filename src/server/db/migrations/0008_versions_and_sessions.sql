CREATE TABLE "versions" (
	"template_id" text NOT NULL,
	"number" integer NOT NULL,
	"name" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"tried" text DEFAULT '' NOT NULL,
	"document" json NOT NULL,
	"made_by" text DEFAULT '' NOT NULL,
	"kept_at" timestamp (3) with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "versions_template_id_number_pk" PRIMARY KEY("template_id","number")
);
--> statement-breakpoint
ALTER TABLE "templates" ADD COLUMN "session_date" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "templates" ADD COLUMN "session_state" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "templates" ADD COLUMN "from_id" text;--> statement-breakpoint
ALTER TABLE "templates" ADD COLUMN "from_revision" integer;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_of_revisions" FOREIGN KEY ("template_id","number") REFERENCES "public"."template_revisions"("template_id","number") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "versions_by_name" ON "versions" USING btree ("template_id",lower("name"));--> statement-breakpoint
CREATE INDEX "templates_by_origin" ON "templates" USING btree ("from_id","from_revision");--> statement-breakpoint
CREATE INDEX "sessions_by_date" ON "templates" USING btree ("session_date" DESC NULLS LAST,"id" DESC NULLS LAST) WHERE "templates"."deleted_at" is null and "templates"."session_date" <> '';--> statement-breakpoint
UPDATE "templates" t SET "from_id" = r."origin"->>'id', "from_revision" = (r."origin"->>'revision')::int FROM "template_revisions" r WHERE r."template_id" = t."id" AND r."number" = 1 AND r."origin" IS NOT NULL;
