CREATE TABLE "discs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"plastic_id" uuid NOT NULL,
	"run_id" uuid,
	"stamped" jsonb,
	"marked_g" double precision,
	"weighed_g" double precision,
	"source" text NOT NULL,
	"wear" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"removed_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "discs_code" CHECK (length(trim("discs"."code")) between 1 and 120),
	CONSTRAINT "discs_marked" CHECK ("discs"."marked_g" between 100 and 220),
	CONSTRAINT "discs_weighed" CHECK ("discs"."weighed_g" between 100 and 220),
	CONSTRAINT "discs_source" CHECK ("discs"."source" in ('bought', 'lent', 'sent by the maker', 'found', 'unknown')),
	CONSTRAINT "discs_wear" CHECK ("discs"."wear" in ('new', 'seasoned', 'worn', 'beaten')),
	CONSTRAINT "discs_stamped" CHECK ("discs"."stamped" is null or (coalesce(("discs"."stamped" ->> 'speed')::float8 between 1 and 15, false) and coalesce(("discs"."stamped" ->> 'glide')::float8 between 0 and 7.5, false) and coalesce(("discs"."stamped" ->> 'turn')::float8 between -5 and 2, false) and coalesce(("discs"."stamped" ->> 'fade')::float8 between -1 and 6, false)))
);
--> statement-breakpoint
CREATE TABLE "makers" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "makers_name_unique" UNIQUE("name"),
	CONSTRAINT "makers_name" CHECK (length(trim("makers"."name")) between 1 and 120)
);
--> statement-breakpoint
CREATE TABLE "molds" (
	"id" uuid PRIMARY KEY NOT NULL,
	"maker_id" uuid NOT NULL,
	"name" text NOT NULL,
	"disc_class" text NOT NULL,
	"numbers" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "molds_name_once" UNIQUE("maker_id","name"),
	CONSTRAINT "molds_name" CHECK (length(trim("molds"."name")) between 1 and 120),
	CONSTRAINT "molds_class" CHECK ("molds"."disc_class" in ('putter', 'approach', 'midrange', 'fairway driver', 'distance driver')),
	CONSTRAINT "molds_numbers" CHECK ("molds"."numbers" is null or (coalesce(("molds"."numbers" ->> 'speed')::float8 between 1 and 15, false) and coalesce(("molds"."numbers" ->> 'glide')::float8 between 0 and 7.5, false) and coalesce(("molds"."numbers" ->> 'turn')::float8 between -5 and 2, false) and coalesce(("molds"."numbers" ->> 'fade')::float8 between -1 and 6, false)))
);
--> statement-breakpoint
CREATE TABLE "plastics" (
	"id" uuid PRIMARY KEY NOT NULL,
	"mold_id" uuid NOT NULL,
	"name" text NOT NULL,
	"numbers" jsonb,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "plastics_name_once" UNIQUE("mold_id","name"),
	CONSTRAINT "plastics_name" CHECK (length(trim("plastics"."name")) between 1 and 120),
	CONSTRAINT "plastics_numbers" CHECK ("plastics"."numbers" is null or (coalesce(("plastics"."numbers" ->> 'speed')::float8 between 1 and 15, false) and coalesce(("plastics"."numbers" ->> 'glide')::float8 between 0 and 7.5, false) and coalesce(("plastics"."numbers" ->> 'turn')::float8 between -5 and 2, false) and coalesce(("plastics"."numbers" ->> 'fade')::float8 between -1 and 6, false)))
);
--> statement-breakpoint
CREATE TABLE "preferences" (
	"id" uuid PRIMARY KEY NOT NULL,
	"units" text NOT NULL,
	"theme" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "preferences_units" CHECK ("preferences"."units" in ('metric', 'imperial')),
	CONSTRAINT "preferences_theme" CHECK ("preferences"."theme" in ('day', 'dusk', 'sun'))
);
--> statement-breakpoint
CREATE TABLE "runs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"plastic_id" uuid NOT NULL,
	"name" text NOT NULL,
	"numbers" jsonb,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "runs_name_once" UNIQUE("plastic_id","name"),
	CONSTRAINT "runs_of_plastic" UNIQUE("id","plastic_id"),
	CONSTRAINT "runs_name" CHECK (length(trim("runs"."name")) between 1 and 120),
	CONSTRAINT "runs_numbers" CHECK ("runs"."numbers" is null or (coalesce(("runs"."numbers" ->> 'speed')::float8 between 1 and 15, false) and coalesce(("runs"."numbers" ->> 'glide')::float8 between 0 and 7.5, false) and coalesce(("runs"."numbers" ->> 'turn')::float8 between -5 and 2, false) and coalesce(("runs"."numbers" ->> 'fade')::float8 between -1 and 6, false)))
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"id" uuid PRIMARY KEY NOT NULL,
	"place" text NOT NULL,
	"day" date NOT NULL,
	"temperature_c" double precision,
	"altitude_m" double precision,
	"method" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "sessions_place" CHECK (length(trim("sessions"."place")) between 1 and 120),
	CONSTRAINT "sessions_temperature" CHECK ("sessions"."temperature_c" between -40 and 55),
	CONSTRAINT "sessions_altitude" CHECK ("sessions"."altitude_m" between -450 and 6000),
	CONSTRAINT "sessions_method" CHECK ("sessions"."method" in ('eye', 'paced', 'ranged', 'taped'))
);
--> statement-breakpoint
CREATE TABLE "throwers" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"hand" text NOT NULL,
	"backhand_mps" double precision,
	"forehand_mps" double precision,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "throwers_name_unique" UNIQUE("name"),
	CONSTRAINT "throwers_name" CHECK (length(trim("throwers"."name")) between 1 and 120),
	CONSTRAINT "throwers_hand" CHECK ("throwers"."hand" in ('right', 'left')),
	CONSTRAINT "throwers_backhand" CHECK ("throwers"."backhand_mps" between 8 and 45),
	CONSTRAINT "throwers_forehand" CHECK ("throwers"."forehand_mps" between 8 and 45)
);
--> statement-breakpoint
CREATE TABLE "throws" (
	"id" uuid PRIMARY KEY NOT NULL,
	"trial_id" uuid NOT NULL,
	"session_id" uuid NOT NULL,
	"disc_id" uuid NOT NULL,
	"thrower_id" uuid NOT NULL,
	"label" text,
	"thrown_at" timestamp with time zone NOT NULL,
	"hand" text NOT NULL,
	"stroke" text NOT NULL,
	"power" double precision NOT NULL,
	"hyzer_deg" double precision NOT NULL,
	"release_speed_mps" double precision,
	"hyzer_called_deg" double precision,
	"nose_called_deg" double precision,
	"launch_called_deg" double precision,
	"wind_along_mps" double precision,
	"wind_across_mps" double precision,
	"mid_down_m" double precision,
	"mid_right_m" double precision,
	"hang_s" double precision,
	"apex_m" double precision,
	"ground_m" double precision,
	"carry_m" double precision NOT NULL,
	"right_m" double precision NOT NULL,
	"counts" boolean NOT NULL,
	"why_not" text,
	"notes" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"taken_back_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "throws_hand" CHECK ("throws"."hand" in ('right', 'left')),
	CONSTRAINT "throws_stroke" CHECK ("throws"."stroke" in ('backhand', 'forehand')),
	CONSTRAINT "throws_power" CHECK ("throws"."power" between 0.1 and 1.2),
	CONSTRAINT "throws_hyzer" CHECK ("throws"."hyzer_deg" between -80 and 80),
	CONSTRAINT "throws_carry" CHECK ("throws"."carry_m" between 0.5 and 300),
	CONSTRAINT "throws_right" CHECK ("throws"."right_m" between -150 and 150),
	CONSTRAINT "throws_release_speed_mps" CHECK ("throws"."release_speed_mps" between 4 and 45),
	CONSTRAINT "throws_hyzer_called_deg" CHECK ("throws"."hyzer_called_deg" between -80 and 80),
	CONSTRAINT "throws_nose_called_deg" CHECK ("throws"."nose_called_deg" between -20 and 30),
	CONSTRAINT "throws_launch_called_deg" CHECK ("throws"."launch_called_deg" between -10 and 45),
	CONSTRAINT "throws_wind_along_mps" CHECK ("throws"."wind_along_mps" between -25 and 25),
	CONSTRAINT "throws_wind_across_mps" CHECK ("throws"."wind_across_mps" between -25 and 25),
	CONSTRAINT "throws_mid_down_m" CHECK ("throws"."mid_down_m" between 0.5 and 300),
	CONSTRAINT "throws_mid_right_m" CHECK ("throws"."mid_right_m" between -150 and 150),
	CONSTRAINT "throws_hang_s" CHECK ("throws"."hang_s" between 0.2 and 20),
	CONSTRAINT "throws_apex_m" CHECK ("throws"."apex_m" between 0.2 and 60),
	CONSTRAINT "throws_ground_m" CHECK ("throws"."ground_m" between 0 and 150),
	CONSTRAINT "throws_mid" CHECK (("throws"."mid_down_m" is null) = ("throws"."mid_right_m" is null)),
	CONSTRAINT "throws_mid_short_of_landing" CHECK ("throws"."mid_down_m" is null or "throws"."mid_down_m" < "throws"."carry_m")
);
--> statement-breakpoint
CREATE TABLE "trial_discs" (
	"trial_id" uuid NOT NULL,
	"disc_id" uuid NOT NULL,
	"place" integer NOT NULL,
	CONSTRAINT "trial_discs_trial_id_disc_id_pk" PRIMARY KEY("trial_id","disc_id")
);
--> statement-breakpoint
CREATE TABLE "trials" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"question" text DEFAULT '' NOT NULL,
	"control_disc_id" uuid,
	"hyzer_degs" double precision[] NOT NULL,
	"planned_throws" integer DEFAULT 0 NOT NULL,
	"finished_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "trials_name" CHECK (length(trim("trials"."name")) between 1 and 120),
	CONSTRAINT "trials_planned" CHECK ("trials"."planned_throws" between 0 and 2000)
);
--> statement-breakpoint
ALTER TABLE "discs" ADD CONSTRAINT "discs_plastic_id_plastics_id_fk" FOREIGN KEY ("plastic_id") REFERENCES "public"."plastics"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "discs" ADD CONSTRAINT "discs_run_of_plastic" FOREIGN KEY ("run_id","plastic_id") REFERENCES "public"."runs"("id","plastic_id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "molds" ADD CONSTRAINT "molds_maker_id_makers_id_fk" FOREIGN KEY ("maker_id") REFERENCES "public"."makers"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plastics" ADD CONSTRAINT "plastics_mold_id_molds_id_fk" FOREIGN KEY ("mold_id") REFERENCES "public"."molds"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_plastic_id_plastics_id_fk" FOREIGN KEY ("plastic_id") REFERENCES "public"."plastics"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "throws" ADD CONSTRAINT "throws_session_id_sessions_id_fk" FOREIGN KEY ("session_id") REFERENCES "public"."sessions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "throws" ADD CONSTRAINT "throws_thrower_id_throwers_id_fk" FOREIGN KEY ("thrower_id") REFERENCES "public"."throwers"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "throws" ADD CONSTRAINT "throws_disc_of_trial" FOREIGN KEY ("trial_id","disc_id") REFERENCES "public"."trial_discs"("trial_id","disc_id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trial_discs" ADD CONSTRAINT "trial_discs_trial_id_trials_id_fk" FOREIGN KEY ("trial_id") REFERENCES "public"."trials"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trial_discs" ADD CONSTRAINT "trial_discs_disc_id_discs_id_fk" FOREIGN KEY ("disc_id") REFERENCES "public"."discs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_control_disc_id_discs_id_fk" FOREIGN KEY ("control_disc_id") REFERENCES "public"."discs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "discs_code_once" ON "discs" USING btree (lower("code"));--> statement-breakpoint
CREATE INDEX "discs_plastic" ON "discs" USING btree ("plastic_id");--> statement-breakpoint
CREATE INDEX "throws_of_trial" ON "throws" USING btree ("trial_id","thrown_at");--> statement-breakpoint
CREATE INDEX "throws_of_disc" ON "throws" USING btree ("disc_id");