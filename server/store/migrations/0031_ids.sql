ALTER TABLE "disc_events" DROP CONSTRAINT "disc_events_kind";--> statement-breakpoint
ALTER TABLE "discs" DROP CONSTRAINT "discs_source";--> statement-breakpoint
ALTER TABLE "drill_answers" DROP CONSTRAINT "drill_answers_kind";--> statement-breakpoint
ALTER TABLE "errands" DROP CONSTRAINT "errands_state";--> statement-breakpoint
ALTER TABLE "molds" DROP CONSTRAINT "molds_class";--> statement-breakpoint
ALTER TABLE "review_sections" DROP CONSTRAINT "review_sections_kind";--> statement-breakpoint
UPDATE "disc_events" SET "kind" = replace("kind", ' ', '-') WHERE "kind" IN ('not spared');--> statement-breakpoint
UPDATE "discs" SET "source" = replace("source", ' ', '-') WHERE "source" IN ('sent by the maker');--> statement-breakpoint
UPDATE "drill_answers" SET "kind" = replace("kind", ' ', '-') WHERE "kind" IN ('more stable', 'stood up');--> statement-breakpoint
UPDATE "errands" SET "state" = replace("state", ' ', '-') WHERE "state" IN ('under way');--> statement-breakpoint
UPDATE "molds" SET "disc_class" = replace("disc_class", ' ', '-') WHERE "disc_class" IN ('fairway driver', 'distance driver');--> statement-breakpoint
UPDATE "review_sections" SET "kind" = replace("kind", ' ', '-') WHERE "kind" IN ('left out');--> statement-breakpoint
UPDATE "drill_answers" SET "like" = replace("like"::text, '"nose up"', '"nose-up"')::jsonb WHERE "like" ? 'nose up';--> statement-breakpoint
-- stored words become ids: what they are called stands in the code
CREATE FUNCTION with_ids(stored jsonb) RETURNS jsonb LANGUAGE plpgsql AS $$
DECLARE
  written text := stored::text;
  field text;
  words text;
BEGIN
  FOR field, words IN VALUES
    ('kind', 'short game'),
    ('kind', 'left out'),
    ('kind', 'not spared'),
    ('fixedBy', 'least to most stable'),
    ('fixedBy', 'known before unknown'),
    ('fixedBy', 'candidate last'),
    ('protocol', 'same release'),
    ('protocol', 'same line'),
    ('says', 'is more stable than'),
    ('says', 'is less stable than'),
    ('says', 'flies farther than'),
    ('says', 'flies straighter than'),
    ('says', 'has more glide than'),
    ('says', 'finishes harder than'),
    ('says', 'skips farther than'),
    ('slot', 'earns a slot'),
    ('slot', 'earns no slot'),
    ('again', 'would buy again'),
    ('again', 'would not buy again'),
    ('view', 'left out'),
    ('view', 'in the hand'),
    ('discClass', 'fairway driver'),
    ('discClass', 'distance driver'),
    ('source', 'sent by the maker')
  LOOP
    written := replace(written, format('"%s": "%s"', field, words), format('"%s": "%s"', field, replace(words, ' ', '-')));
  END LOOP;
  RETURN written::jsonb;
END $$;--> statement-breakpoint
UPDATE "review_sections" SET "body" = with_ids("body") WHERE "body" IS DISTINCT FROM with_ids("body");--> statement-breakpoint
UPDATE "review_sections" SET "verdicts" = with_ids("verdicts") WHERE "verdicts" IS DISTINCT FROM with_ids("verdicts");--> statement-breakpoint
UPDATE "trials" SET "plan" = with_ids("plan") WHERE "plan" IS DISTINCT FROM with_ids("plan");--> statement-breakpoint
UPDATE "row_versions" SET "sent" = with_ids("sent") WHERE "sent" IS DISTINCT FROM with_ids("sent");--> statement-breakpoint
UPDATE "row_versions" SET "stored" = with_ids("stored") WHERE "stored" IS DISTINCT FROM with_ids("stored");--> statement-breakpoint
UPDATE "offers" SET "changes" = with_ids("changes") WHERE "changes" IS DISTINCT FROM with_ids("changes");--> statement-breakpoint
DROP FUNCTION with_ids(jsonb);--> statement-breakpoint
ALTER TABLE "errands" ALTER COLUMN "state" SET DEFAULT 'under-way';--> statement-breakpoint
ALTER TABLE "disc_events" ADD CONSTRAINT "disc_events_kind" CHECK ("disc_events"."kind" in ('moved', 'spared', 'not-spared', 'lost', 'found', 'lent', 'back', 'retired', 'sold'));--> statement-breakpoint
ALTER TABLE "discs" ADD CONSTRAINT "discs_source" CHECK ("discs"."source" in ('bought', 'lent', 'sent-by-the-maker', 'found', 'unknown'));--> statement-breakpoint
ALTER TABLE "drill_answers" ADD CONSTRAINT "drill_answers_kind" CHECK ("drill_answers"."kind" in ('angle', 'turn', 'fade', 'nose', 'cause', 'more-stable', 'stood-up', 'landing'));--> statement-breakpoint
ALTER TABLE "errands" ADD CONSTRAINT "errands_state" CHECK ("errands"."state" in ('waiting', 'under-way', 'done', 'failed', 'cancelled'));--> statement-breakpoint
ALTER TABLE "molds" ADD CONSTRAINT "molds_class" CHECK ("molds"."disc_class" in ('putter', 'approach', 'midrange', 'fairway-driver', 'distance-driver'));--> statement-breakpoint
ALTER TABLE "review_sections" ADD CONSTRAINT "review_sections_kind" CHECK ("review_sections"."kind" in ('tested', 'how', 'hand', 'claimed', 'found', 'numbers', 'arms', 'uses', 'beside', 'wear', 'left-out', 'open', 'verdict', 'disclosure', 'own'));
