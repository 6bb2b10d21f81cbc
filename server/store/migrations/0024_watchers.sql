ALTER TABLE "sessions" ADD COLUMN "watcher_id" uuid;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "watcher_sd_deg" double precision;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_watcher_id_throwers_id_fk" FOREIGN KEY ("watcher_id") REFERENCES "public"."throwers"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_watcher" CHECK ("sessions"."watcher_sd_deg" between 0.3 and 40);