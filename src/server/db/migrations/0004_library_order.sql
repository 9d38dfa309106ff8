-- Not valid for what is there: a template of an older Wandel may stand on a rig that was never there. It is told as a finding, and can be fitted to another.
DROP INDEX "templates_by_change";--> statement-breakpoint
ALTER TABLE "templates" ADD CONSTRAINT "templates_rig_id_rigs_id_fk" FOREIGN KEY ("rig_id") REFERENCES "public"."rigs"("id") ON DELETE no action ON UPDATE no action NOT VALID;--> statement-breakpoint
CREATE INDEX "templates_by_change" ON "templates" USING btree ("changed_at" DESC NULLS FIRST,"id" DESC NULLS FIRST) WHERE "templates"."deleted_at" is null;