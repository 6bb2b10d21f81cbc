CREATE TABLE "errands" (
	"id" uuid PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"state" text DEFAULT 'under way' NOT NULL,
	"stage" text DEFAULT '' NOT NULL,
	"done" double precision DEFAULT 0 NOT NULL,
	"total" double precision DEFAULT 0 NOT NULL,
	"said" text DEFAULT '' NOT NULL,
	"problems" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"cancelled" boolean DEFAULT false NOT NULL,
	"beat_at" timestamp with time zone DEFAULT now() NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "errands_kind" CHECK ("errands"."kind" in ('copy', 'restore')),
	CONSTRAINT "errands_state" CHECK ("errands"."state" in ('under way', 'done', 'failed', 'cancelled'))
);
