CREATE TABLE "short_throws" (
	"id" uuid PRIMARY KEY NOT NULL,
	"trial_id" uuid NOT NULL,
	"session_id" uuid NOT NULL,
	"disc_id" uuid NOT NULL,
	"thrower_id" uuid NOT NULL,
	"thrown_at" timestamp with time zone NOT NULL,
	"game" text NOT NULL,
	"distance_m" double precision,
	"effort" double precision,
	"past_m" double precision,
	"right_m" double precision,
	"skip_m" double precision,
	"made" boolean,
	"miss" text,
	"style" text,
	"hole" integer,
	"strokes" integer,
	"lie_m" double precision,
	"taken_back_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "short_throws_game" CHECK ("short_throws"."game" in ('ground', 'approach', 'putting', 'holes')),
	CONSTRAINT "short_throws_whole" CHECK (case "short_throws"."game" when 'ground' then "short_throws"."skip_m" is not null
        when 'approach' then "short_throws"."distance_m" is not null and "short_throws"."past_m" is not null
        when 'putting' then "short_throws"."distance_m" is not null and "short_throws"."made" is not null
        else "short_throws"."hole" is not null and "short_throws"."strokes" is not null end),
	CONSTRAINT "short_throws_skip" CHECK ("short_throws"."skip_m" between 0 and 150),
	CONSTRAINT "short_throws_distance" CHECK ("short_throws"."distance_m" between 0.5 and 200),
	CONSTRAINT "short_throws_strokes" CHECK ("short_throws"."strokes" between 1 and 30)
);
--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_session_id_sessions_id_fk" FOREIGN KEY ("session_id") REFERENCES "public"."sessions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_thrower_id_throwers_id_fk" FOREIGN KEY ("thrower_id") REFERENCES "public"."throwers"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_disc_of_trial" FOREIGN KEY ("trial_id","disc_id") REFERENCES "public"."trial_discs"("trial_id","disc_id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "short_throws_of_trial" ON "short_throws" USING btree ("trial_id","thrown_at");