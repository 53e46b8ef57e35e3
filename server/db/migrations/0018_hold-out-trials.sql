ALTER TABLE "trials" ADD COLUMN "alone_patch" text;--> statement-breakpoint
ALTER TABLE "trials" ADD COLUMN "alone_render_id" integer;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_alone_render_id_renders_id_fk" FOREIGN KEY ("alone_render_id") REFERENCES "public"."renders"("id") ON DELETE no action ON UPDATE no action;