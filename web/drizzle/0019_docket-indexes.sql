ALTER TABLE "case_summary" ADD COLUMN "follow_up_on" text GENERATED ALWAYS AS (content ->> 'followUpOn') STORED;
--> statement-breakpoint
CREATE INDEX "case_entry_steps" ON "case_entry" USING btree ("case_id","sequence") WHERE "case_entry"."kind" = 'step';
--> statement-breakpoint
CREATE INDEX "case_summary_open" ON "case_summary" USING btree ("case_id") WHERE not "case_summary"."closed" or "case_summary"."follow_up_on" is not null;
--> statement-breakpoint
CREATE INDEX "case_summary_timers" ON "case_summary" USING btree ("timer_due_at") WHERE "case_summary"."has_timers" and not "case_summary"."closed";
--> statement-breakpoint
CREATE INDEX "repair_case_model" ON "repair_case" USING btree ("unit_model");
--> statement-breakpoint
CREATE INDEX "repair_case_opened" ON "repair_case" USING btree ("opened_at","number");
