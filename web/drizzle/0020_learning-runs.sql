CREATE TABLE "board_exposure" (
	"board_id" uuid PRIMARY KEY NOT NULL,
	"made_by" text NOT NULL,
	"content" jsonb NOT NULL,
	"belongs_to" uuid DEFAULT workshop_here() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "learned" (
	"belongs_to" uuid PRIMARY KEY DEFAULT workshop_here() NOT NULL,
	"made_of" text NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"patterns" jsonb NOT NULL,
	"lessons" jsonb NOT NULL,
	"for_boards" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "case_summary" ADD COLUMN "lesson_mark" text GENERATED ALWAYS AS (md5(coalesce(content ->> 'lesson', '') || ' ' || coalesce(content ->> 'lastEntryAt', '') || ' ' || coalesce(content #>> '{figures,minutes}', ''))) STORED;--> statement-breakpoint
ALTER TABLE "board_exposure" ADD CONSTRAINT "board_exposure_board_id_board_id_fk" FOREIGN KEY ("board_id") REFERENCES "public"."board"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "learned" ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY "own_workshop" ON "learned" USING (belongs_to = (SELECT workshop_here())) WITH CHECK (belongs_to = (SELECT workshop_here()));
--> statement-breakpoint
ALTER TABLE "board_exposure" ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY "own_workshop" ON "board_exposure" USING (belongs_to = (SELECT workshop_here())) WITH CHECK (belongs_to = (SELECT workshop_here()));
