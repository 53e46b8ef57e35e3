CREATE TABLE "batches" (
	"id" text PRIMARY KEY NOT NULL,
	"render_id" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "decisions" (
	"id" serial PRIMARY KEY NOT NULL,
	"shot_id" integer NOT NULL,
	"trial_id" integer,
	"finding_id" integer,
	"verdict" text NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"version_id" integer,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "findings" (
	"id" serial PRIMARY KEY NOT NULL,
	"shot_id" integer NOT NULL,
	"render_id" integer NOT NULL,
	"key" text NOT NULL,
	"samples" integer NOT NULL,
	"body" text NOT NULL,
	"mask" text NOT NULL,
	"position" integer NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "findings_renderId_key_samples_unique" UNIQUE("render_id","key","samples")
);
--> statement-breakpoint
CREATE TABLE "renders" (
	"id" serial PRIMARY KEY NOT NULL,
	"shot_id" integer NOT NULL,
	"version_id" integer NOT NULL,
	"purpose" text NOT NULL,
	"sheet" text NOT NULL,
	"patch" text NOT NULL,
	"x" integer NOT NULL,
	"y" integer NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"whole_frame" boolean NOT NULL,
	"seed" double precision NOT NULL,
	"target_groups" integer NOT NULL,
	"tile_size" integer NOT NULL,
	"tile_count" integer NOT NULL,
	"done_groups" integer DEFAULT 0 NOT NULL,
	"rays" double precision DEFAULT 0 NOT NULL,
	"ms" double precision DEFAULT 0 NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	"state" text NOT NULL,
	"examined" text DEFAULT 'no' NOT NULL,
	"epoch" integer DEFAULT 0 NOT NULL,
	"error" text,
	"build" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "shots" (
	"id" serial PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"head_version_id" integer,
	"revision" integer DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "shots_code_unique" UNIQUE("code")
);
--> statement-breakpoint
CREATE TABLE "tiles" (
	"render_id" integer NOT NULL,
	"tile" integer NOT NULL,
	"groups" integer NOT NULL,
	"film" text NOT NULL,
	"rays" double precision NOT NULL,
	"ms" double precision NOT NULL,
	"worker" text NOT NULL,
	CONSTRAINT "tiles_render_id_tile_groups_pk" PRIMARY KEY("render_id","tile","groups")
);
--> statement-breakpoint
CREATE TABLE "trials" (
	"id" serial PRIMARY KEY NOT NULL,
	"shot_id" integer NOT NULL,
	"number" integer NOT NULL,
	"finding_id" integer,
	"remedy_id" text,
	"title" text NOT NULL,
	"version_id" integer NOT NULL,
	"sheet" text NOT NULL,
	"patch" text NOT NULL,
	"x" integer NOT NULL,
	"y" integer NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"state" text NOT NULL,
	"error" text,
	"predicted" text,
	"measured" text,
	"before_render_id" integer,
	"after_render_id" integer,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "trials_shotId_number_unique" UNIQUE("shot_id","number")
);
--> statement-breakpoint
CREATE TABLE "versions" (
	"id" serial PRIMARY KEY NOT NULL,
	"shot_id" integer NOT NULL,
	"number" integer NOT NULL,
	"parent_id" integer,
	"document" text NOT NULL,
	"manifest" text NOT NULL,
	"patch" text,
	"reason" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "versions_shotId_number_unique" UNIQUE("shot_id","number")
);
--> statement-breakpoint
ALTER TABLE "batches" ADD CONSTRAINT "batches_render_id_renders_id_fk" FOREIGN KEY ("render_id") REFERENCES "public"."renders"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decisions" ADD CONSTRAINT "decisions_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decisions" ADD CONSTRAINT "decisions_trial_id_trials_id_fk" FOREIGN KEY ("trial_id") REFERENCES "public"."trials"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decisions" ADD CONSTRAINT "decisions_finding_id_findings_id_fk" FOREIGN KEY ("finding_id") REFERENCES "public"."findings"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "decisions" ADD CONSTRAINT "decisions_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "findings" ADD CONSTRAINT "findings_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "findings" ADD CONSTRAINT "findings_render_id_renders_id_fk" FOREIGN KEY ("render_id") REFERENCES "public"."renders"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "renders" ADD CONSTRAINT "renders_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "renders" ADD CONSTRAINT "renders_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tiles" ADD CONSTRAINT "tiles_render_id_renders_id_fk" FOREIGN KEY ("render_id") REFERENCES "public"."renders"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_finding_id_findings_id_fk" FOREIGN KEY ("finding_id") REFERENCES "public"."findings"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_version_id_versions_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."versions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_before_render_id_renders_id_fk" FOREIGN KEY ("before_render_id") REFERENCES "public"."renders"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_after_render_id_renders_id_fk" FOREIGN KEY ("after_render_id") REFERENCES "public"."renders"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "versions" ADD CONSTRAINT "versions_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "renders_shot_id_index" ON "renders" USING btree ("shot_id");