ALTER TABLE "renders" ADD COLUMN "scene_figures" text;--> statement-breakpoint
UPDATE "renders" SET "scene_figures" = json_build_object('memory', "bytes", 'preview-shadows', "preview_error")::text WHERE "bytes" IS NOT NULL;
