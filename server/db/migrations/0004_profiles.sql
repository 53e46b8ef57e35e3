CREATE TABLE "profiles" (
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"body" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "profiles_kind_name_pk" PRIMARY KEY("kind","name")
);
--> statement-breakpoint
ALTER TABLE "logs" ADD COLUMN "sample" text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE "logs" ADD COLUMN "blob" text;--> statement-breakpoint
ALTER TABLE "logs" ADD COLUMN "statistics" text;--> statement-breakpoint
ALTER TABLE "preflights" ADD COLUMN "told" text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "show_profile" text;--> statement-breakpoint
ALTER TABLE "shots" ADD COLUMN "target_profile" text;