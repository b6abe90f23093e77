CREATE TABLE "tour" (
	"id" uuid PRIMARY KEY NOT NULL,
	"drawing_id" uuid NOT NULL,
	"name" text NOT NULL,
	"position" double precision NOT NULL,
	"loops" boolean DEFAULT false NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"stops" jsonb NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "tour" ADD CONSTRAINT "tour_drawing_id_drawing_id_fk" FOREIGN KEY ("drawing_id") REFERENCES "public"."drawing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "tour_drawing" ON "tour" USING btree ("drawing_id");