CREATE TABLE "board_picture" (
	"id" uuid PRIMARY KEY NOT NULL,
	"sheet" uuid NOT NULL,
	"side" text NOT NULL,
	"ties" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"width_px" integer NOT NULL,
	"height_px" integer NOT NULL,
	"image" "bytea" NOT NULL,
	"thumbnail" "bytea" NOT NULL,
	"taken_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "board_picture" ADD CONSTRAINT "board_picture_sheet_board_id_fk" FOREIGN KEY ("sheet") REFERENCES "public"."board"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "board_picture_sheet" ON "board_picture" USING btree ("sheet");