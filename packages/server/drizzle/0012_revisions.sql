CREATE TABLE "change_review" (
	"drawing_id" uuid NOT NULL,
	"from_revision" integer NOT NULL,
	"to_revision" integer NOT NULL,
	"change" text NOT NULL,
	"person" text NOT NULL,
	"state" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "change_review_pk" PRIMARY KEY("drawing_id","from_revision","to_revision","change","person")
);
--> statement-breakpoint
CREATE TABLE "revision" (
	"drawing_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"name" text DEFAULT '' NOT NULL,
	"file_name" text DEFAULT '' NOT NULL,
	"source_bytes" bigint DEFAULT 0 NOT NULL,
	"kind" text NOT NULL,
	"unit" text NOT NULL,
	"counts" jsonb NOT NULL,
	"extents" jsonb,
	"sheets" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"layers" jsonb NOT NULL,
	"imported_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "revision_drawing_id_number_pk" PRIMARY KEY("drawing_id","number")
);
--> statement-breakpoint
CREATE TABLE "seen" (
	"drawing_id" uuid NOT NULL,
	"revision" integer NOT NULL,
	"person" text NOT NULL,
	"bits" text NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "seen_pk" PRIMARY KEY("drawing_id","revision","person")
);
--> statement-breakpoint
ALTER TABLE "import_job" ADD COLUMN "file_name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "change_review" ADD CONSTRAINT "change_review_drawing_id_drawing_id_fk" FOREIGN KEY ("drawing_id") REFERENCES "public"."drawing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "revision" ADD CONSTRAINT "revision_drawing_id_drawing_id_fk" FOREIGN KEY ("drawing_id") REFERENCES "public"."drawing"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "seen" ADD CONSTRAINT "seen_drawing_id_drawing_id_fk" FOREIGN KEY ("drawing_id") REFERENCES "public"."drawing"("id") ON DELETE cascade ON UPDATE no action;