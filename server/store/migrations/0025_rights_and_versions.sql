CREATE TABLE "failed_tries" (
	"id" uuid PRIMARY KEY NOT NULL,
	"what" text NOT NULL,
	"name" text NOT NULL,
	"address" text NOT NULL,
	"tries" integer DEFAULT 1 NOT NULL,
	"first_at" timestamp with time zone DEFAULT now() NOT NULL,
	"last_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "failed_tries_once" UNIQUE("what","name","address"),
	CONSTRAINT "failed_tries_what" CHECK ("failed_tries"."what" in ('passphrase', 'code', 'invitation'))
);
--> statement-breakpoint
CREATE TABLE "row_versions" (
	"kind" text NOT NULL,
	"row_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"device_id" uuid,
	"sent" jsonb NOT NULL,
	"stored" jsonb NOT NULL,
	"written_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "row_versions_kind_row_id_version_pk" PRIMARY KEY("kind","row_id","version")
);
--> statement-breakpoint
ALTER TABLE "discs" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "discs" ADD COLUMN "by_person_id" uuid;--> statement-breakpoint
ALTER TABLE "discs" ADD COLUMN "by_key_id" uuid;--> statement-breakpoint
ALTER TABLE "discs" ADD COLUMN "written_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "inspections" ADD COLUMN "by_person_id" uuid;--> statement-breakpoint
ALTER TABLE "inspections" ADD COLUMN "by_key_id" uuid;--> statement-breakpoint
ALTER TABLE "inspections" ADD COLUMN "written_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "passes" ADD COLUMN "made_by_key_id" uuid;--> statement-breakpoint
ALTER TABLE "places" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "places" ADD COLUMN "by_person_id" uuid;--> statement-breakpoint
ALTER TABLE "places" ADD COLUMN "by_key_id" uuid;--> statement-breakpoint
ALTER TABLE "places" ADD COLUMN "written_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "by_person_id" uuid;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "by_key_id" uuid;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "written_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "by_person_id" uuid;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "by_key_id" uuid;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "written_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "throwers" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "throwers" ADD COLUMN "by_person_id" uuid;--> statement-breakpoint
ALTER TABLE "throwers" ADD COLUMN "by_key_id" uuid;--> statement-breakpoint
ALTER TABLE "throwers" ADD COLUMN "written_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "trials" ADD COLUMN "made_as" text;--> statement-breakpoint
ALTER TABLE "wind_logs" ADD COLUMN "by_person_id" uuid;--> statement-breakpoint
ALTER TABLE "wind_logs" ADD COLUMN "by_key_id" uuid;--> statement-breakpoint
ALTER TABLE "wind_logs" ADD COLUMN "written_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "discs" ADD CONSTRAINT "discs_by_person_id_people_id_fk" FOREIGN KEY ("by_person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "discs" ADD CONSTRAINT "discs_by_key_id_device_keys_id_fk" FOREIGN KEY ("by_key_id") REFERENCES "public"."device_keys"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "inspections" ADD CONSTRAINT "inspections_by_person_id_people_id_fk" FOREIGN KEY ("by_person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "inspections" ADD CONSTRAINT "inspections_by_key_id_device_keys_id_fk" FOREIGN KEY ("by_key_id") REFERENCES "public"."device_keys"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passes" ADD CONSTRAINT "passes_made_by_key_id_device_keys_id_fk" FOREIGN KEY ("made_by_key_id") REFERENCES "public"."device_keys"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "places" ADD CONSTRAINT "places_by_person_id_people_id_fk" FOREIGN KEY ("by_person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "places" ADD CONSTRAINT "places_by_key_id_device_keys_id_fk" FOREIGN KEY ("by_key_id") REFERENCES "public"."device_keys"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_by_person_id_people_id_fk" FOREIGN KEY ("by_person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_by_key_id_device_keys_id_fk" FOREIGN KEY ("by_key_id") REFERENCES "public"."device_keys"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_by_person_id_people_id_fk" FOREIGN KEY ("by_person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_by_key_id_device_keys_id_fk" FOREIGN KEY ("by_key_id") REFERENCES "public"."device_keys"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "throwers" ADD CONSTRAINT "throwers_by_person_id_people_id_fk" FOREIGN KEY ("by_person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "throwers" ADD CONSTRAINT "throwers_by_key_id_device_keys_id_fk" FOREIGN KEY ("by_key_id") REFERENCES "public"."device_keys"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "wind_logs" ADD CONSTRAINT "wind_logs_by_person_id_people_id_fk" FOREIGN KEY ("by_person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "wind_logs" ADD CONSTRAINT "wind_logs_by_key_id_device_keys_id_fk" FOREIGN KEY ("by_key_id") REFERENCES "public"."device_keys"("id") ON DELETE no action ON UPDATE no action;