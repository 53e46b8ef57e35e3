CREATE TABLE "frame_times" (
	"version_id" integer NOT NULL,
	"sheet" text NOT NULL,
	"state" text NOT NULL,
	"error" text,
	"thread_seconds" double precision DEFAULT 0 NOT NULL,
	"once_seconds" double precision DEFAULT 0 NOT NULL,
	"rays" double precision DEFAULT 0 NOT NULL,
	"share" double precision DEFAULT 0 NOT NULL,
	CONSTRAINT "frame_times_version_id_sheet_pk" PRIMARY KEY("version_id","sheet")
);
--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "farm" text;--> statement-breakpoint
ALTER TABLE "frame_times" ADD CONSTRAINT "frame_times_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;