ALTER TABLE "case_entry" ADD COLUMN "made_by" text DEFAULT 'bench' NOT NULL;
--> statement-breakpoint
ALTER TABLE "case_entry" ADD COLUMN "epoch" integer DEFAULT 0 NOT NULL;
--> statement-breakpoint
ALTER TABLE "board" ADD COLUMN "parts" integer;
--> statement-breakpoint
ALTER TABLE "board" ADD COLUMN "nets" integer;
--> statement-breakpoint
ALTER TABLE "board" ADD COLUMN "archived_at" timestamp with time zone;
--> statement-breakpoint
CREATE TABLE "case_summary" (
	"case_id" uuid PRIMARY KEY NOT NULL REFERENCES "repair_case"("id"),
	"closed" boolean NOT NULL,
	"paused" boolean NOT NULL,
	"minutes_to_go" integer NOT NULL,
	"timer_due_at" timestamp with time zone,
	"daylight_reached" boolean NOT NULL,
	"has_timers" boolean NOT NULL,
	"next_action" text NOT NULL,
	"content" jsonb NOT NULL
);
--> statement-breakpoint
CREATE FUNCTION "tell_of_case"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_TABLE_NAME = 'case_entry' THEN
    PERFORM pg_notify('hanzai', json_build_object('case', NEW.case_id, 'entry', NEW.id)::text);
  ELSE
    PERFORM pg_notify('hanzai', json_build_object('case', NEW.id)::text);
  END IF;
  RETURN NULL;
END
$$;
--> statement-breakpoint
CREATE TRIGGER "case_entry_tells" AFTER INSERT ON "case_entry" FOR EACH ROW EXECUTE FUNCTION "tell_of_case"();
--> statement-breakpoint
CREATE TRIGGER "repair_case_tells" AFTER INSERT OR UPDATE ON "repair_case" FOR EACH ROW EXECUTE FUNCTION "tell_of_case"();
