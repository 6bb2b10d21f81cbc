CREATE TABLE "weighed_days" (
	"digest" text PRIMARY KEY NOT NULL,
	"outcomes" jsonb NOT NULL,
	"kept_at" timestamp with time zone DEFAULT now() NOT NULL
);
