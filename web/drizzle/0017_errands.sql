CREATE TABLE "errand" (
	"id" uuid PRIMARY KEY NOT NULL,
	"what" text NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"name" text DEFAULT '' NOT NULL,
	"asked_by" text NOT NULL,
	"asked_at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone,
	"bytes" bigint DEFAULT 0 NOT NULL,
	"worked" bigint DEFAULT 0 NOT NULL,
	"said" text DEFAULT '' NOT NULL,
	"belongs_to" uuid DEFAULT workshop_here() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "errand_piece" (
	"errand_id" uuid NOT NULL,
	"nth" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	"belongs_to" uuid DEFAULT workshop_here() NOT NULL,
	CONSTRAINT "errand_piece_errand_id_nth_pk" PRIMARY KEY("errand_id","nth")
);
--> statement-breakpoint
ALTER TABLE "errand_piece" ADD CONSTRAINT "errand_piece_errand_id_errand_id_fk" FOREIGN KEY ("errand_id") REFERENCES "public"."errand"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "errand_asked" ON "errand" USING btree ("asked_at");
--> statement-breakpoint
-- What is sent is compressed already.
ALTER TABLE "errand_piece" ALTER COLUMN "bytes" SET STORAGE EXTERNAL;
--> statement-breakpoint
ALTER TABLE "errand" ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY "own_workshop" ON "errand" USING (belongs_to = (SELECT workshop_here())) WITH CHECK (belongs_to = (SELECT workshop_here()));
--> statement-breakpoint
ALTER TABLE "errand_piece" ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY "own_workshop" ON "errand_piece" USING (belongs_to = (SELECT workshop_here())) WITH CHECK (belongs_to = (SELECT workshop_here()));
