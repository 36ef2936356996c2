CREATE TABLE "person_passkey" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text,
	"public_key" text NOT NULL,
	"user_id" text NOT NULL,
	"credential_id" text NOT NULL,
	"counter" bigint NOT NULL,
	"device_type" text NOT NULL,
	"backed_up" boolean NOT NULL,
	"transports" text,
	"created_at" timestamp with time zone DEFAULT now(),
	"aaguid" text,
	"belongs_to" uuid DEFAULT workshop_here() NOT NULL,
	CONSTRAINT "person_passkey_credential_id_unique" UNIQUE("credential_id")
);
--> statement-breakpoint
ALTER TABLE "person_passkey" ADD CONSTRAINT "person_passkey_user_id_person_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;
--> statement-breakpoint
CREATE INDEX "person_passkey_person" ON "person_passkey" USING btree ("user_id");
--> statement-breakpoint
ALTER TABLE "person_passkey" ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY "own_workshop" ON "person_passkey" USING (belongs_to = (SELECT workshop_here())) WITH CHECK (belongs_to = (SELECT workshop_here()));
