CREATE TABLE "board" (
	"id" uuid PRIMARY KEY NOT NULL,
	"title" text NOT NULL,
	"source_name" text NOT NULL,
	"content" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "case_entry" (
	"id" uuid PRIMARY KEY NOT NULL,
	"case_id" uuid NOT NULL,
	"sequence" bigserial NOT NULL,
	"kind" text NOT NULL,
	"body" jsonb NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"recorded_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "repair_case" (
	"id" uuid PRIMARY KEY NOT NULL,
	"number" integer GENERATED ALWAYS AS IDENTITY (sequence name "repair_case_number_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 101 CACHE 1),
	"title" text NOT NULL,
	"unit_model" text NOT NULL,
	"serial" text DEFAULT '' NOT NULL,
	"owner" text DEFAULT '' NOT NULL,
	"complaint" text DEFAULT '' NOT NULL,
	"spending_limit" numeric(10, 2),
	"waits_for" text DEFAULT '' NOT NULL,
	"promised_on" date,
	"board_id" uuid,
	"opened_at" timestamp with time zone DEFAULT now() NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "repair_case_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "workshop_mark" (
	"name" text PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "case_entry" ADD CONSTRAINT "case_entry_case_id_repair_case_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."repair_case"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "repair_case" ADD CONSTRAINT "repair_case_board_id_board_id_fk" FOREIGN KEY ("board_id") REFERENCES "public"."board"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "case_entry_case_sequence" ON "case_entry" USING btree ("case_id","sequence");