CREATE TABLE "hands" (
	"trial_id" uuid NOT NULL,
	"device_id" uuid NOT NULL,
	"held" jsonb NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"seen_at" timestamp with time zone NOT NULL,
	CONSTRAINT "hands_trial_id_device_id_pk" PRIMARY KEY("trial_id","device_id")
);
--> statement-breakpoint
ALTER TABLE "hands" ADD CONSTRAINT "hands_trial_id_trials_id_fk" FOREIGN KEY ("trial_id") REFERENCES "public"."trials"("id") ON DELETE cascade ON UPDATE no action;