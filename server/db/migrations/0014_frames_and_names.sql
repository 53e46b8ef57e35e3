CREATE TABLE "frame_ranges" (
	"id" serial PRIMARY KEY NOT NULL,
	"shot_id" integer NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "renders" ADD COLUMN "range_id" integer;--> statement-breakpoint
ALTER TABLE "renders" ADD COLUMN "frame" integer;--> statement-breakpoint
ALTER TABLE "versions" ADD COLUMN "name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "frame_ranges" ADD CONSTRAINT "frame_ranges_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "frame_ranges_shot_id_index" ON "frame_ranges" USING btree ("shot_id");--> statement-breakpoint
ALTER TABLE "renders" ADD CONSTRAINT "renders_range_id_frame_ranges_id_fk" FOREIGN KEY ("range_id") REFERENCES "public"."frame_ranges"("id") ON DELETE no action ON UPDATE no action;