ALTER TABLE "board_picture" ALTER COLUMN "image" DROP NOT NULL;
--> statement-breakpoint
ALTER TABLE "case_picture" ALTER COLUMN "image" DROP NOT NULL;
--> statement-breakpoint
ALTER TABLE "board_picture" ADD COLUMN "kept_at" text;
--> statement-breakpoint
ALTER TABLE "case_picture" ADD COLUMN "kept_at" text;
--> statement-breakpoint
-- Here or there, never both and never neither.
ALTER TABLE "board_picture" ADD CONSTRAINT "board_picture_is_somewhere" CHECK ((image IS NULL) <> (kept_at IS NULL));
--> statement-breakpoint
ALTER TABLE "case_picture" ADD CONSTRAINT "case_picture_is_somewhere" CHECK ((image IS NULL) <> (kept_at IS NULL));
