CREATE TABLE "removed_content" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"drawing_id" uuid NOT NULL,
	"revision" integer,
	"removed_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "shared_setting" (
	"name" text PRIMARY KEY NOT NULL,
	"value" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "import_job" ADD COLUMN "stage" text DEFAULT 'reading' NOT NULL;--> statement-breakpoint
ALTER TABLE "import_job" ADD COLUMN "tiles" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "import_job" ADD COLUMN "tiles_total" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "import_job" ADD COLUMN "worker" uuid;--> statement-breakpoint
ALTER TABLE "import_job" ADD COLUMN "heartbeat_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "import_job" ADD COLUMN "attempts" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "import_job" ADD COLUMN "is_cancel_requested" boolean DEFAULT false NOT NULL;--> statement-breakpoint
DROP SCHEMA IF EXISTS "pgboss" CASCADE;
