CREATE TABLE "cards" (
	"trial_id" uuid PRIMARY KEY NOT NULL,
	"mark" text NOT NULL,
	"stale" boolean DEFAULT false NOT NULL,
	"card" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "cards" ADD CONSTRAINT "cards_trial_id_trials_id_fk" FOREIGN KEY ("trial_id") REFERENCES "public"."trials"("id") ON DELETE cascade ON UPDATE no action;