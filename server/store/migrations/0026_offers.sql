CREATE TABLE "offers" (
	"id" uuid PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"row_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"changes" jsonb NOT NULL,
	"offered_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "offers_once" UNIQUE("kind","row_id","person_id")
);
--> statement-breakpoint
ALTER TABLE "offers" ADD CONSTRAINT "offers_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;