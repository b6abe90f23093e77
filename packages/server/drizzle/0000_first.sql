CREATE TABLE "drawing" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"unit" text DEFAULT 'none' NOT NULL,
	"status" text NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	"counts" jsonb NOT NULL,
	"extents" jsonb,
	"report" jsonb NOT NULL,
	"source_bytes" bigint DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "import_job" (
	"id" uuid PRIMARY KEY NOT NULL,
	"drawing_id" uuid NOT NULL,
	"state" text NOT NULL,
	"bytes_read" bigint DEFAULT 0 NOT NULL,
	"bytes_total" bigint NOT NULL,
	"objects" integer DEFAULT 0 NOT NULL,
	"error" jsonb,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "layer" (
	"drawing_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"name" text NOT NULL,
	"colour" text NOT NULL,
	"objects" integer NOT NULL,
	"segments" integer NOT NULL,
	"support" double precision[] NOT NULL,
	CONSTRAINT "layer_drawing_id_number_pk" PRIMARY KEY("drawing_id","number")
);
--> statement-breakpoint
CREATE TABLE "text_mark" (
	"drawing_id" uuid NOT NULL,
	"object_id" integer NOT NULL,
	"layer" integer NOT NULL,
	"content" text NOT NULL,
	"x" double precision NOT NULL,
	"y" double precision NOT NULL,
	"size" double precision NOT NULL,
	"angle_rad" double precision NOT NULL
);
--> statement-breakpoint
ALTER TABLE "import_job" ADD CONSTRAINT "import_job_drawing_id_drawing_id_fk" FOREIGN KEY ("drawing_id") REFERENCES "public"."drawing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "layer" ADD CONSTRAINT "layer_drawing_id_drawing_id_fk" FOREIGN KEY ("drawing_id") REFERENCES "public"."drawing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "text_mark" ADD CONSTRAINT "text_mark_drawing_id_drawing_id_fk" FOREIGN KEY ("drawing_id") REFERENCES "public"."drawing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "import_job_drawing" ON "import_job" USING btree ("drawing_id");--> statement-breakpoint
CREATE INDEX "text_mark_drawing" ON "text_mark" USING btree ("drawing_id");