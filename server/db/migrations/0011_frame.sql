ALTER TABLE "findings" DROP CONSTRAINT "findings_renderId_key_samples_unique";--> statement-breakpoint
ALTER TABLE "findings" ALTER COLUMN "render_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "findings" ALTER COLUMN "mask" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "findings" ADD COLUMN "version_id" integer;--> statement-breakpoint
UPDATE "findings" SET "version_id" = "renders"."version_id" FROM "renders" WHERE "renders"."id" = "findings"."render_id";--> statement-breakpoint
ALTER TABLE "findings" ALTER COLUMN "version_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "findings" ADD COLUMN "summary" text DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "renders" ADD COLUMN "files" text DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "renders" ADD COLUMN "bytes" double precision;--> statement-breakpoint
ALTER TABLE "trials" ADD COLUMN "files" text DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "findings" ADD CONSTRAINT "findings_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "findings" ADD CONSTRAINT "findings_versionId_renderId_key_samples_unique" UNIQUE NULLS NOT DISTINCT("version_id","render_id","key","samples");