CREATE TABLE "preflights" (
	"version_id" integer PRIMARY KEY NOT NULL,
	"state" text NOT NULL,
	"error" text,
	"seconds" double precision DEFAULT 0 NOT NULL,
	"results" text,
	"stops" integer DEFAULT 0 NOT NULL,
	"cautions" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "came_in" text;--> statement-breakpoint
ALTER TABLE "preflights" ADD CONSTRAINT "preflights_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;