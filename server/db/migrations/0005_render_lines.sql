CREATE TABLE "render_lines" (
	"id" serial PRIMARY KEY NOT NULL,
	"render_id" integer NOT NULL,
	"text" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "render_lines" ADD CONSTRAINT "render_lines_render_id_renders_id_fk" FOREIGN KEY ("render_id") REFERENCES "public"."renders"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "render_lines_render_id_index" ON "render_lines" USING btree ("render_id");