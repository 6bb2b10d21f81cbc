CREATE TABLE "shelf_state" (
	"id" integer PRIMARY KEY NOT NULL,
	"keeper" uuid,
	"kept_until" timestamp with time zone DEFAULT now() NOT NULL,
	"not_weighed" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"gaps" jsonb DEFAULT '{}'::jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "unweighed" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"throw_id" uuid
);
--> statement-breakpoint
ALTER TABLE "errands" DROP CONSTRAINT "errands_kind";--> statement-breakpoint
ALTER TABLE "errands" DROP CONSTRAINT "errands_state";--> statement-breakpoint
ALTER TABLE "cards" ALTER COLUMN "mark" SET DEFAULT '';--> statement-breakpoint
ALTER TABLE "cards" ALTER COLUMN "card" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "cards" ADD COLUMN "touched" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "cards" ADD COLUMN "known" integer DEFAULT -1 NOT NULL;--> statement-breakpoint
ALTER TABLE "cards" DROP COLUMN "stale";--> statement-breakpoint
ALTER TABLE "errands" ADD CONSTRAINT "errands_kind" CHECK ("errands"."kind" in ('copy', 'restore', 'merge', 'import'));--> statement-breakpoint
ALTER TABLE "errands" ADD CONSTRAINT "errands_state" CHECK ("errands"."state" in ('waiting', 'under way', 'done', 'failed', 'cancelled'));--> statement-breakpoint
INSERT INTO "shelf_state" ("id") VALUES (1);--> statement-breakpoint
CREATE FUNCTION note_thrown() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	IF (SELECT count(*) > 120 FROM (SELECT FROM written LIMIT 121) AS first_ones) THEN
		INSERT INTO unweighed (throw_id) VALUES (NULL);
	ELSE
		INSERT INTO unweighed (throw_id) SELECT id FROM written;
	END IF;
	RETURN NULL;
END
$$;--> statement-breakpoint
CREATE FUNCTION note_anything() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	INSERT INTO unweighed (throw_id) VALUES (NULL);
	RETURN NULL;
END
$$;--> statement-breakpoint
CREATE TRIGGER throws_inserted AFTER INSERT ON "throws" REFERENCING NEW TABLE AS written FOR EACH STATEMENT EXECUTE FUNCTION note_thrown();--> statement-breakpoint
CREATE TRIGGER throws_updated AFTER UPDATE ON "throws" REFERENCING NEW TABLE AS written FOR EACH STATEMENT EXECUTE FUNCTION note_thrown();--> statement-breakpoint
CREATE TRIGGER throws_deleted AFTER DELETE ON "throws" FOR EACH STATEMENT EXECUTE FUNCTION note_anything();--> statement-breakpoint
CREATE TRIGGER trials_written AFTER INSERT OR UPDATE OR DELETE ON "trials" FOR EACH STATEMENT EXECUTE FUNCTION note_anything();--> statement-breakpoint
CREATE TRIGGER sessions_written AFTER INSERT OR UPDATE OR DELETE ON "sessions" FOR EACH STATEMENT EXECUTE FUNCTION note_anything();--> statement-breakpoint
CREATE TRIGGER throwers_written AFTER INSERT OR UPDATE OR DELETE ON "throwers" FOR EACH STATEMENT EXECUTE FUNCTION note_anything();--> statement-breakpoint
CREATE TRIGGER discs_written AFTER INSERT OR UPDATE OR DELETE ON "discs" FOR EACH STATEMENT EXECUTE FUNCTION note_anything();--> statement-breakpoint
CREATE TRIGGER molds_written AFTER INSERT OR UPDATE OR DELETE ON "molds" FOR EACH STATEMENT EXECUTE FUNCTION note_anything();--> statement-breakpoint
CREATE TRIGGER plastics_written AFTER INSERT OR UPDATE OR DELETE ON "plastics" FOR EACH STATEMENT EXECUTE FUNCTION note_anything();--> statement-breakpoint
CREATE TRIGGER runs_written AFTER INSERT OR UPDATE OR DELETE ON "runs" FOR EACH STATEMENT EXECUTE FUNCTION note_anything();--> statement-breakpoint
CREATE TRIGGER makers_written AFTER INSERT OR UPDATE OR DELETE ON "makers" FOR EACH STATEMENT EXECUTE FUNCTION note_anything();
