CREATE TABLE "mark" (
	"id" uuid PRIMARY KEY NOT NULL,
	"drawing_id" uuid NOT NULL,
	"serial" serial NOT NULL,
	"content" jsonb NOT NULL,
	"removed_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "drawing" ADD COLUMN "begun" jsonb;--> statement-breakpoint
ALTER TABLE "mark" ADD CONSTRAINT "mark_drawing_id_drawing_id_fk" FOREIGN KEY ("drawing_id") REFERENCES "public"."drawing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "mark_drawing" ON "mark" USING btree ("drawing_id");