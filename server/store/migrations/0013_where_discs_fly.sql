DELETE FROM "ratings";--> statement-breakpoint
UPDATE "cards" SET "stale" = true;--> statement-breakpoint
ALTER TABLE "ratings" ADD COLUMN "side" double precision NOT NULL;--> statement-breakpoint
ALTER TABLE "ratings" ADD COLUMN "side_sd" double precision NOT NULL;--> statement-breakpoint
ALTER TABLE "ratings" ADD COLUMN "finish" double precision NOT NULL;--> statement-breakpoint
ALTER TABLE "ratings" ADD COLUMN "finish_sd" double precision NOT NULL;--> statement-breakpoint
ALTER TABLE "ratings" ADD COLUMN "stability" double precision NOT NULL;--> statement-breakpoint
ALTER TABLE "ratings" ADD COLUMN "stability_sd" double precision NOT NULL;