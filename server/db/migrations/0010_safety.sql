CREATE TABLE "once_keys" (
	"key" text PRIMARY KEY NOT NULL,
	"answer" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"key" text PRIMARY KEY NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "taken_jobs" (
	"job_id" text PRIMARY KEY NOT NULL,
	"queue" text NOT NULL,
	"worker" integer,
	"errors" integer DEFAULT 0 NOT NULL,
	"deaths" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "renders" ADD COLUMN "frame_width" integer;--> statement-breakpoint
ALTER TABLE "renders" ADD COLUMN "frame_height" integer;--> statement-breakpoint
UPDATE "renders" SET
	"frame_width" = ("versions"."document"::json #>> ARRAY['sheets', "renders"."sheet", 'width'])::integer,
	"frame_height" = ("versions"."document"::json #>> ARRAY['sheets', "renders"."sheet", 'height'])::integer
FROM "versions" WHERE "versions"."id" = "renders"."version_id";--> statement-breakpoint
ALTER TABLE "renders" ALTER COLUMN "frame_width" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "renders" ALTER COLUMN "frame_height" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "archived_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "tiles" ADD COLUMN "time" text;