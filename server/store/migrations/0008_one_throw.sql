ALTER TABLE "short_throws" RENAME COLUMN "skip_m" TO "ground_m";--> statement-breakpoint
ALTER TABLE "short_throws" DROP CONSTRAINT "short_throws_skip";--> statement-breakpoint
ALTER TABLE "short_throws" DROP CONSTRAINT "short_throws_distance";--> statement-breakpoint
ALTER TABLE "short_throws" DROP CONSTRAINT "short_throws_whole";--> statement-breakpoint
ALTER TABLE "throws" DROP CONSTRAINT "throws_hyzer";--> statement-breakpoint
ALTER TABLE "throws" DROP CONSTRAINT "throws_carry";--> statement-breakpoint
ALTER TABLE "throws" DROP CONSTRAINT "throws_right";--> statement-breakpoint
ALTER TABLE "places" ADD COLUMN "time_zone" text;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "place_id" uuid;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "time_zone" text;--> statement-breakpoint
ALTER TABLE "throws" ADD COLUMN "leg" text;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_place_id_places_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."places"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_distance_m" CHECK ("short_throws"."distance_m" between 0.5 and 200);--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_effort" CHECK ("short_throws"."effort" between 0.1 and 1.2);--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_past_m" CHECK ("short_throws"."past_m" between -100 and 100);--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_right_m" CHECK ("short_throws"."right_m" between -100 and 100);--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_ground_m" CHECK ("short_throws"."ground_m" between 0 and 150);--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_miss" CHECK ("short_throws"."miss" in ('short', 'left', 'right', 'high'));--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_style" CHECK ("short_throws"."style" in ('spin', 'push', 'turbo', 'straddle'));--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_hole" CHECK ("short_throws"."hole" between 1 and 36);--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_lie_m" CHECK ("short_throws"."lie_m" between 0 and 300);--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_whole" CHECK (case "short_throws"."game" when 'ground' then "short_throws"."ground_m" is not null when 'approach' then "short_throws"."distance_m" is not null and "short_throws"."past_m" is not null when 'putting' then "short_throws"."distance_m" is not null and "short_throws"."made" is not null when 'holes' then "short_throws"."hole" is not null and "short_throws"."strokes" is not null end);--> statement-breakpoint
ALTER TABLE "throws" ADD CONSTRAINT "throws_leg" CHECK ("throws"."leg" in ('out', 'back'));--> statement-breakpoint
ALTER TABLE "throws" ADD CONSTRAINT "throws_hyzer_deg" CHECK ("throws"."hyzer_deg" between -80 and 80);--> statement-breakpoint
ALTER TABLE "throws" ADD CONSTRAINT "throws_carry_m" CHECK ("throws"."carry_m" between 0.5 and 300);--> statement-breakpoint
ALTER TABLE "throws" ADD CONSTRAINT "throws_right_m" CHECK ("throws"."right_m" between -150 and 150);--> statement-breakpoint
-- what used to be told from the wind's sign and from a name that matched is stored from now on
UPDATE "throws" SET "leg" = CASE WHEN "wind_along_mps" < 0 THEN 'out' ELSE 'back' END WHERE "wind_along_mps" <> 0;--> statement-breakpoint
UPDATE "sessions" SET "place_id" = "named"."id"
FROM (SELECT lower(trim("name")) AS "name", (array_agg("id"))[1] AS "id" FROM "places" GROUP BY 1 HAVING count(*) = 1) AS "named"
WHERE lower(trim("sessions"."place")) = "named"."name";
