CREATE TABLE "own_pattern" (
	"id" uuid PRIMARY KEY NOT NULL,
	"unit_type" text DEFAULT '' NOT NULL,
	"seen" text NOT NULL,
	"suspects" text NOT NULL,
	"because" text DEFAULT '' NOT NULL,
	"first_tests" text DEFAULT '' NOT NULL,
	"archived_at" timestamp with time zone,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "workshop_setting" (
	"name" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "repair_case" ADD COLUMN "teaches" boolean DEFAULT true NOT NULL;
--> statement-breakpoint
-- Summaries have what a closed case teaches from here on: they are made anew at the next start.
DELETE FROM "case_summary";
