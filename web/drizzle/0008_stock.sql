CREATE TABLE "stock_lot" (
	"id" uuid PRIMARY KEY NOT NULL,
	"text" text NOT NULL,
	"bin" text DEFAULT '' NOT NULL,
	"supplier" text DEFAULT '' NOT NULL,
	"price" numeric(10, 2),
	"bought_on" date,
	"quantity" integer NOT NULL,
	"reserved" integer DEFAULT 0 NOT NULL,
	"minimum" integer DEFAULT 0 NOT NULL,
	"donor" text DEFAULT '' NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"archived_at" timestamp with time zone,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "stock_lot_quantity" CHECK ("stock_lot"."quantity" >= 0),
	CONSTRAINT "stock_lot_reserved" CHECK ("stock_lot"."reserved" >= 0 and "stock_lot"."reserved" <= "stock_lot"."quantity")
);
--> statement-breakpoint
CREATE TABLE "stock_move" (
	"id" uuid PRIMARY KEY NOT NULL,
	"lot_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"count" integer NOT NULL,
	"case_id" uuid,
	"note" text DEFAULT '' NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "stock_reservation" (
	"lot_id" uuid NOT NULL,
	"case_id" uuid NOT NULL,
	"count" integer NOT NULL,
	CONSTRAINT "stock_reservation_lot_id_case_id_pk" PRIMARY KEY("lot_id","case_id"),
	CONSTRAINT "stock_reservation_count" CHECK ("stock_reservation"."count" > 0)
);
--> statement-breakpoint
ALTER TABLE "stock_move" ADD CONSTRAINT "stock_move_lot_id_stock_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."stock_lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stock_move" ADD CONSTRAINT "stock_move_case_id_repair_case_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."repair_case"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stock_reservation" ADD CONSTRAINT "stock_reservation_lot_id_stock_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."stock_lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stock_reservation" ADD CONSTRAINT "stock_reservation_case_id_repair_case_id_fk" FOREIGN KEY ("case_id") REFERENCES "public"."repair_case"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "stock_move_lot" ON "stock_move" USING btree ("lot_id");