-- One database can hold many workshops: every row belongs to one, and the application sees and
-- writes those of its own alone. Held here, beneath every program: no query names the workshop.

-- The role that a connection works as, and its workshop. A role that is not listed works for the
-- first one. By the role and not by a setting: a setting anybody can change.
CREATE TABLE "workshop_role" (
	"role" text PRIMARY KEY NOT NULL,
	"workshop" uuid DEFAULT gen_random_uuid() NOT NULL
);
--> statement-breakpoint
CREATE FUNCTION "workshop_here"() RETURNS uuid LANGUAGE sql STABLE AS $$
  SELECT coalesce(
    (SELECT workshop FROM public.workshop_role WHERE role = current_user::text),
    '00000000-0000-0000-0000-000000000001'
  )
$$;
--> statement-breakpoint
CREATE TABLE "visitor_link" (
	"id" uuid PRIMARY KEY NOT NULL,
	"case_id" uuid NOT NULL,
	"token_hash" text NOT NULL,
	"for_whom" text DEFAULT '' NOT NULL,
	"shows_pictures" boolean DEFAULT false NOT NULL,
	"shows_costs" boolean DEFAULT false NOT NULL,
	"made_by" text NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	CONSTRAINT "visitor_link_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
ALTER TABLE "visitor_link" ADD CONSTRAINT "visitor_link_case_id_repair_case_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."repair_case"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
CREATE INDEX "visitor_link_case" ON "visitor_link" USING btree ("case_id");
--> statement-breakpoint
-- The owner of the tables (migrations, backups, seeds) is bound by none of this.
DO $$
DECLARE
  one text;
BEGIN
  FOREACH one IN ARRAY ARRAY[
    'board', 'board_picture', 'repair_case', 'case_entry', 'case_summary', 'case_picture', 'visitor_link',
    'instrument', 'stock_lot', 'stock_reservation', 'stock_move', 'unit_code',
    'workshop_mark', 'workshop_setting', 'own_pattern', 'pattern_pack',
    'person', 'person_session', 'person_account', 'person_verification', 'audit_line'
  ] LOOP
    EXECUTE format('ALTER TABLE %I ADD COLUMN belongs_to uuid NOT NULL DEFAULT workshop_here()', one);
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', one);
    EXECUTE format('CREATE POLICY own_workshop ON %I USING (belongs_to = (SELECT workshop_here())) WITH CHECK (belongs_to = (SELECT workshop_here()))', one);
  END LOOP;
END
$$;
--> statement-breakpoint
-- What is one of a kind is so within a workshop.
ALTER TABLE "workshop_setting" DROP CONSTRAINT "workshop_setting_pkey";
--> statement-breakpoint
ALTER TABLE "workshop_setting" ADD CONSTRAINT "workshop_setting_belongs_to_name_pk" PRIMARY KEY("belongs_to","name");
--> statement-breakpoint
ALTER TABLE "person" DROP CONSTRAINT "person_email_unique";
--> statement-breakpoint
ALTER TABLE "person" ADD CONSTRAINT "person_email_unique" UNIQUE("belongs_to","email");
--> statement-breakpoint
-- What belongs to a row belongs to the same workshop as that row: a key of another workshop's case
-- is refused, though the server itself looks references up past every policy.
CREATE FUNCTION "same_workshop"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NOT EXISTS (SELECT 1 FROM repair_case WHERE id = NEW.case_id AND belongs_to = NEW.belongs_to) AND NEW.case_id IS NOT NULL THEN
    RAISE EXCEPTION 'the case is one of another workshop' USING ERRCODE = '23503';
  END IF;
  RETURN NEW;
END
$$;
--> statement-breakpoint
CREATE TRIGGER "case_entry_same_workshop" BEFORE INSERT ON "case_entry" FOR EACH ROW EXECUTE FUNCTION "same_workshop"();
--> statement-breakpoint
CREATE TRIGGER "case_picture_same_workshop" BEFORE INSERT ON "case_picture" FOR EACH ROW EXECUTE FUNCTION "same_workshop"();
--> statement-breakpoint
CREATE TRIGGER "visitor_link_same_workshop" BEFORE INSERT ON "visitor_link" FOR EACH ROW EXECUTE FUNCTION "same_workshop"();
--> statement-breakpoint
CREATE TRIGGER "stock_reservation_same_workshop" BEFORE INSERT ON "stock_reservation" FOR EACH ROW EXECUTE FUNCTION "same_workshop"();
--> statement-breakpoint
-- News are told to the workshop whose they are.
CREATE OR REPLACE FUNCTION "tell_of_case"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_TABLE_NAME = 'case_entry' THEN
    PERFORM pg_notify('hanzai ' || NEW.belongs_to, json_build_object('case', NEW.case_id, 'entry', NEW.id)::text);
  ELSE
    PERFORM pg_notify('hanzai ' || NEW.belongs_to, json_build_object('case', NEW.id)::text);
  END IF;
  RETURN NULL;
END
$$;
