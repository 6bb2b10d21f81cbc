CREATE TABLE "disc_events" (
	"id" uuid PRIMARY KEY NOT NULL,
	"disc_id" uuid NOT NULL,
	"day" date NOT NULL,
	"kind" text NOT NULL,
	"job_id" uuid,
	"note" text DEFAULT '' NOT NULL,
	"removed_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "disc_events_kind" CHECK ("disc_events"."kind" in ('moved', 'spared', 'not spared', 'lost', 'found', 'lent', 'back', 'retired', 'sold'))
);
--> statement-breakpoint
CREATE TABLE "jobs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"thrower_id" uuid,
	"throwing" jsonb NOT NULL,
	"wanted" jsonb NOT NULL,
	"within" jsonb NOT NULL,
	"rank" integer NOT NULL,
	"removed_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "plastic_wear" (
	"id" uuid PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"out_of_make" boolean DEFAULT false NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "plastic_wear_kind" CHECK ("plastic_wear"."kind" in ('base', 'premium', 'soft', 'unknown'))
);
--> statement-breakpoint
ALTER TABLE "disc_events" ADD CONSTRAINT "disc_events_disc_id_discs_id_fk" FOREIGN KEY ("disc_id") REFERENCES "public"."discs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "disc_events" ADD CONSTRAINT "disc_events_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_thrower_id_throwers_id_fk" FOREIGN KEY ("thrower_id") REFERENCES "public"."throwers"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plastic_wear" ADD CONSTRAINT "plastic_wear_id_plastics_id_fk" FOREIGN KEY ("id") REFERENCES "public"."plastics"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "disc_events_of_disc" ON "disc_events" USING btree ("disc_id","day");