CREATE TABLE "assets" (
	"hash" text PRIMARY KEY NOT NULL,
	"data" "bytea" NOT NULL,
	"summary" jsonb NOT NULL,
	"added_at" timestamp with time zone DEFAULT now() NOT NULL
);
