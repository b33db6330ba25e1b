CREATE TABLE "edits" (
	"id" uuid PRIMARY KEY NOT NULL,
	"level_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"client" text NOT NULL,
	"body" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "levels" (
	"id" uuid PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"saved_at" timestamp with time zone DEFAULT now() NOT NULL,
	"writer" text,
	"writer_until" timestamp with time zone,
	"check" jsonb,
	"check_version" integer
);
--> statement-breakpoint
CREATE TABLE "objects" (
	"level_id" uuid NOT NULL,
	"id" text NOT NULL,
	"seq" bigserial NOT NULL,
	"kind" text NOT NULL,
	"version" integer NOT NULL,
	"body" jsonb NOT NULL,
	CONSTRAINT "objects_level_id_id_pk" PRIMARY KEY("level_id","id")
);
--> statement-breakpoint
CREATE TABLE "tiles" (
	"level_id" uuid NOT NULL,
	"key" text NOT NULL,
	"data" "bytea" NOT NULL,
	CONSTRAINT "tiles_level_id_key_pk" PRIMARY KEY("level_id","key")
);
--> statement-breakpoint
ALTER TABLE "edits" ADD CONSTRAINT "edits_level_id_levels_id_fk" FOREIGN KEY ("level_id") REFERENCES "public"."levels"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "objects" ADD CONSTRAINT "objects_level_id_levels_id_fk" FOREIGN KEY ("level_id") REFERENCES "public"."levels"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tiles" ADD CONSTRAINT "tiles_level_id_levels_id_fk" FOREIGN KEY ("level_id") REFERENCES "public"."levels"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "edits_level_version" ON "edits" USING btree ("level_id","version");--> statement-breakpoint
CREATE INDEX "edits_level" ON "edits" USING btree ("level_id");