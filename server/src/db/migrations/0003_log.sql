-- The log's keys and labels beside its bodies, so that a conflict check reads no body.
ALTER TABLE "edits" ADD COLUMN "label" text DEFAULT '' NOT NULL, ADD COLUMN "reads" text[] DEFAULT '{}' NOT NULL, ADD COLUMN "writes" text[] DEFAULT '{}' NOT NULL, ADD COLUMN "bytes" integer DEFAULT 0 NOT NULL;
--> statement-breakpoint
UPDATE "edits" SET "label" = coalesce("body"->>'label', ''), "bytes" = length("body"::text),
  "reads" = ARRAY(SELECT jsonb_array_elements_text(coalesce("body"->'reads', '[]'::jsonb))),
  "writes" = ARRAY(SELECT jsonb_array_elements_text(coalesce("body"->'writes', '[]'::jsonb)));
--> statement-breakpoint
-- Strokes are deflated already: trying to pack them again takes longer than writing them.
ALTER TABLE "edits" ALTER COLUMN "body" SET STORAGE EXTERNAL;
--> statement-breakpoint
ALTER TABLE "tiles" ALTER COLUMN "data" SET STORAGE EXTERNAL;
--> statement-breakpoint
DROP INDEX "edits_level";
--> statement-breakpoint
-- Old edits without their bodies, many to a row: which they were, whose, and what they touched all together.
CREATE TABLE "folded" (
	"level_id" uuid NOT NULL REFERENCES "levels"("id") ON DELETE CASCADE,
	"first" integer NOT NULL,
	"last" integer NOT NULL,
	"client" text NOT NULL,
	"ids" uuid[] NOT NULL,
	"versions" integer[] NOT NULL,
	"reads" text[] NOT NULL,
	"writes" text[] NOT NULL,
	CONSTRAINT "folded_pk" PRIMARY KEY ("level_id", "first", "client")
);
--> statement-breakpoint
-- Version of the document's form a level's rows are in; older ones are brought up when the server starts.
ALTER TABLE "levels" ADD COLUMN "document" integer DEFAULT 5 NOT NULL;
--> statement-breakpoint
-- Long work: what is asked and what came of it. The queue itself is pg-boss's.
CREATE TABLE "jobs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"level_id" uuid REFERENCES "levels"("id") ON DELETE CASCADE,
	"version" integer,
	"state" text DEFAULT 'queued' NOT NULL,
	"progress" real DEFAULT 0 NOT NULL,
	"input" jsonb,
	"file" bytea,
	"result" jsonb,
	"output" bytea,
	"code" text,
	"error" text,
	"tries" integer DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE INDEX "jobs_level" ON "jobs" ("level_id", "kind", "state");
