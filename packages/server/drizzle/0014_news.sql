CREATE TABLE "news" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"event" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
