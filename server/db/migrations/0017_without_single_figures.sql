ALTER TABLE "renders" DROP COLUMN "bytes";--> statement-breakpoint
ALTER TABLE "renders" DROP COLUMN "preview_error";