ALTER TABLE "rigs" ADD COLUMN "deleted_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "studios" ADD COLUMN "deleted_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "templates" ADD COLUMN "deleted_by" text DEFAULT '' NOT NULL;--> statement-breakpoint
-- A saved state is never overwritten; it is removed only where a person empties the bin, which says so in its transaction.
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'DELETE' AND current_setting('wandel.emptying', true) = 'yes' THEN
    RETURN OLD;
  END IF;
  RAISE EXCEPTION 'a saved revision is immutable (%)', TG_TABLE_NAME;
END $$;
