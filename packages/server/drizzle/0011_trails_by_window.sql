ALTER TABLE "trail" ADD COLUMN "window_id" uuid DEFAULT '00000000-0000-0000-0000-000000000000' NOT NULL;--> statement-breakpoint
ALTER TABLE "trail" ADD COLUMN "updated_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "trail" DROP CONSTRAINT "trail_pkey";--> statement-breakpoint
ALTER TABLE "trail" ADD CONSTRAINT "trail_drawing_id_window_id_pk" PRIMARY KEY("drawing_id","window_id");
