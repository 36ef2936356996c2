CREATE TABLE "pattern_pack" (
	"workshop" uuid PRIMARY KEY NOT NULL,
	"content" jsonb NOT NULL,
	"trust" real DEFAULT 0.5 NOT NULL,
	"archived_at" timestamp with time zone,
	"taken_at" timestamp with time zone DEFAULT now() NOT NULL
);
