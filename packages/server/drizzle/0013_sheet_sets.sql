CREATE TABLE "sheet_set" (
	"id" uuid PRIMARY KEY NOT NULL,
	"drawing_id" uuid NOT NULL,
	"name" text NOT NULL,
	"position" double precision NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"fields" jsonb NOT NULL,
	"sheets" jsonb NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "sheet_set" ADD CONSTRAINT "sheet_set_drawing_id_drawing_id_fk" FOREIGN KEY ("drawing_id") REFERENCES "public"."drawing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "sheet_set_drawing" ON "sheet_set" USING btree ("drawing_id");