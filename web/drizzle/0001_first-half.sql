CREATE TABLE "case_picture" (
	"id" uuid PRIMARY KEY NOT NULL,
	"case_id" uuid NOT NULL,
	"width_px" integer NOT NULL,
	"height_px" integer NOT NULL,
	"image" "bytea" NOT NULL,
	"thumbnail" "bytea" NOT NULL,
	"taken_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "unit_code" (
	"id" uuid PRIMARY KEY NOT NULL,
	"unit_type" text NOT NULL,
	"code" text NOT NULL,
	"stage" text NOT NULL,
	"meaning" text NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "repair_case" ADD COLUMN "waits_kind" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "repair_case" ADD COLUMN "unit_type" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "repair_case" ADD COLUMN "accessories" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "repair_case" ADD COLUMN "stuck_inside" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "repair_case" ADD COLUMN "cause_of_death" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "repair_case" ADD COLUMN "earlier_visitors" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "repair_case" ADD COLUMN "media_note" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "repair_case" ADD COLUMN "batch" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "case_picture" ADD CONSTRAINT "case_picture_case_id_repair_case_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."repair_case"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "case_picture_case" ON "case_picture" USING btree ("case_id");