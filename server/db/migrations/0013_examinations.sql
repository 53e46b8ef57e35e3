CREATE TABLE "examinations" (
	"render_id" integer NOT NULL,
	"groups" integer NOT NULL,
	"family" text NOT NULL,
	"found" text NOT NULL,
	"bytes" double precision NOT NULL,
	CONSTRAINT "examinations_render_id_groups_family_pk" PRIMARY KEY("render_id","groups","family")
);
--> statement-breakpoint
ALTER TABLE "examinations" ADD CONSTRAINT "examinations_render_id_renders_id_fk" FOREIGN KEY ("render_id") REFERENCES "public"."renders"("id") ON DELETE no action ON UPDATE no action;