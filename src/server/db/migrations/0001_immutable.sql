-- A saved state is never overwritten and never removed: the database itself refuses.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'a saved revision is immutable (%)', TG_TABLE_NAME;
END $$;--> statement-breakpoint
CREATE TRIGGER template_revisions_immutable BEFORE UPDATE OR DELETE ON template_revisions FOR EACH ROW EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER rig_revisions_immutable BEFORE UPDATE OR DELETE ON rig_revisions FOR EACH ROW EXECUTE FUNCTION refuse_change();
