ALTER TABLE "board" ADD COLUMN "sheet" uuid;--> statement-breakpoint
UPDATE "board" SET "sheet" = "id";--> statement-breakpoint
ALTER TABLE "board" ALTER COLUMN "sheet" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "board" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "board" ADD COLUMN "made_by" text DEFAULT 'bench' NOT NULL;--> statement-breakpoint
ALTER TABLE "board" ADD COLUMN "changes" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "board" ADD CONSTRAINT "board_sheet_version" UNIQUE("sheet","version");
