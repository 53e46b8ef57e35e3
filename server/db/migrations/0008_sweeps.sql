CREATE TABLE "sweeps" (
	"id" serial PRIMARY KEY NOT NULL,
	"shot_id" integer NOT NULL,
	"title" text NOT NULL,
	"pointer" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "trials" ADD COLUMN "sweep_id" integer;--> statement-breakpoint
ALTER TABLE "trials" ADD COLUMN "step" text;--> statement-breakpoint
ALTER TABLE "sweeps" ADD CONSTRAINT "sweeps_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "sweeps_shot_id_index" ON "sweeps" USING btree ("shot_id");--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_sweep_id_sweeps_id_fk" FOREIGN KEY ("sweep_id") REFERENCES "public"."sweeps"("id") ON DELETE no action ON UPDATE no action;