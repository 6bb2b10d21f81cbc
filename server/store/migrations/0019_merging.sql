ALTER TABLE "errands" DROP CONSTRAINT "errands_kind";--> statement-breakpoint
ALTER TABLE "errands" ADD CONSTRAINT "errands_kind" CHECK ("errands"."kind" in ('copy', 'restore', 'merge'));