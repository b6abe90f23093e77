CREATE TABLE "link" (
	"id" text PRIMARY KEY NOT NULL,
	"linked" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
