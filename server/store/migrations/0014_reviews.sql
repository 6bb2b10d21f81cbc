CREATE TABLE "review_photos" (
	"id" uuid PRIMARY KEY NOT NULL,
	"review_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"bytes" "bytea" NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "review_photos_kind" CHECK ("review_photos"."kind" in ('image/jpeg', 'image/png', 'image/webp')),
	CONSTRAINT "review_photos_size" CHECK (octet_length("review_photos"."bytes") between 1 and 2000000)
);
--> statement-breakpoint
CREATE TABLE "review_sections" (
	"id" uuid PRIMARY KEY NOT NULL,
	"review_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"place" double precision NOT NULL,
	"title" text NOT NULL,
	"body" jsonb NOT NULL,
	"verdicts" jsonb,
	"hidden" boolean DEFAULT false NOT NULL,
	"removed_at" timestamp with time zone,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "review_sections_kind" CHECK ("review_sections"."kind" in ('tested', 'how', 'hand', 'claimed', 'found', 'numbers', 'arms', 'uses', 'beside', 'wear', 'left out', 'open', 'verdict', 'disclosure', 'own')),
	CONSTRAINT "review_sections_title" CHECK (length(trim("review_sections"."title")) between 1 and 120)
);
--> statement-breakpoint
CREATE TABLE "reviews" (
	"id" uuid PRIMARY KEY NOT NULL,
	"title" text NOT NULL,
	"trial_ids" uuid[] NOT NULL,
	"listed" boolean DEFAULT false NOT NULL,
	"removed_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "reviews_title" CHECK (length(trim("reviews"."title")) between 1 and 120)
);
--> statement-breakpoint
CREATE TABLE "revisions" (
	"id" uuid PRIMARY KEY NOT NULL,
	"review_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"frozen_at" timestamp with time zone DEFAULT now() NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"method" text NOT NULL,
	"sha256" text NOT NULL,
	"page" "bytea" NOT NULL,
	"token" text,
	"published_at" timestamp with time zone,
	CONSTRAINT "revisions_token_unique" UNIQUE("token"),
	CONSTRAINT "revisions_number" UNIQUE("review_id","number"),
	CONSTRAINT "revisions_size" CHECK (octet_length("revisions"."page") between 1 and 24000000),
	CONSTRAINT "revisions_published" CHECK (("revisions"."token" is null) = ("revisions"."published_at" is null))
);
--> statement-breakpoint
ALTER TABLE "review_photos" ADD CONSTRAINT "review_photos_review_id_reviews_id_fk" FOREIGN KEY ("review_id") REFERENCES "public"."reviews"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_sections" ADD CONSTRAINT "review_sections_review_id_reviews_id_fk" FOREIGN KEY ("review_id") REFERENCES "public"."reviews"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "revisions" ADD CONSTRAINT "revisions_review_id_reviews_id_fk" FOREIGN KEY ("review_id") REFERENCES "public"."reviews"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "review_sections_of_review" ON "review_sections" USING btree ("review_id","place");