ALTER TABLE "drawing" ADD COLUMN "sheets" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "layer" ADD COLUMN "is_off" boolean DEFAULT false NOT NULL;