CREATE TABLE "log_decisions" (
	"shot_id" integer NOT NULL,
	"key" text NOT NULL,
	"harmless" boolean NOT NULL,
	"why" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "log_decisions_shot_id_key_pk" PRIMARY KEY("shot_id","key")
);
--> statement-breakpoint
CREATE TABLE "logs" (
	"id" serial PRIMARY KEY NOT NULL,
	"shot_id" integer NOT NULL,
	"name" text NOT NULL,
	"bytes" double precision NOT NULL,
	"body" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "log_decisions" ADD CONSTRAINT "log_decisions_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "logs" ADD CONSTRAINT "logs_shot_id_shots_id_fk" FOREIGN KEY ("shot_id") REFERENCES "public"."shots"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "logs_shot_id_index" ON "logs" USING btree ("shot_id");