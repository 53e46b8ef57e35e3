CREATE TABLE "looks" (
	"id" serial PRIMARY KEY NOT NULL,
	"shot_id" integer NOT NULL,
	"name" text NOT NULL,
	"note" text NOT NULL,
	"query" text NOT NULL,
	"pins" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "picture_sets" (
	"id" serial PRIMARY KEY NOT NULL,
	"shot_id" integer NOT NULL,
	"name" text NOT NULL,
	"take" integer NOT NULL,
	"reading" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "picture_sets_shotId_name_take_unique" UNIQUE("shot_id","name","take")
);
--> statement-breakpoint
CREATE TABLE "pictures" (
	"id" serial PRIMARY KEY NOT NULL,
	"set_id" integer NOT NULL,
	"name" text NOT NULL,
	"frame" integer,
	"blob" text NOT NULL,
	"bytes" double precision NOT NULL,
	"facts" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "pictures_setId_name_unique" UNIQUE("set_id","name")
);
--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "look_revision" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "balance" text DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "looks" ADD CONSTRAINT "looks_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "picture_sets" ADD CONSTRAINT "picture_sets_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pictures" ADD CONSTRAINT "pictures_set_id_picture_sets_id_fk" FOREIGN KEY ("set_id") REFERENCES "public"."picture_sets"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "looks_shot_id_index" ON "looks" USING btree ("shot_id");