CREATE TABLE "arrangement" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"position" double precision NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"arranged" jsonb NOT NULL,
	"picture" text DEFAULT '' NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "view_card" ADD COLUMN "picture" text DEFAULT '' NOT NULL;--> statement-breakpoint
UPDATE "view_card" SET "picture" = coalesce("content" ->> 'picture', ''), "content" = "content" - 'picture';
