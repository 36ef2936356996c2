CREATE TABLE "instrument" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"kinds" jsonb NOT NULL,
	"profile" jsonb NOT NULL,
	"archived_at" timestamp with time zone,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
