CREATE TABLE "trail" (
	"drawing_id" uuid PRIMARY KEY NOT NULL,
	"trail" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "trail" ADD CONSTRAINT "trail_drawing_id_drawing_id_fk" FOREIGN KEY ("drawing_id") REFERENCES "public"."drawing"("id") ON DELETE cascade ON UPDATE no action;