ALTER TABLE "repair_case" ADD COLUMN "made_in" integer;
--> statement-breakpoint
-- Summaries have the figures of a closed case from here on: they are made anew at the next start.
DELETE FROM "case_summary";
