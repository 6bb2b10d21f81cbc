ALTER TABLE "throws" ADD COLUMN "aim_deg" double precision;--> statement-breakpoint
ALTER TABLE "throws" ADD CONSTRAINT "throws_aim_deg" CHECK ("throws"."aim_deg" between -45 and 45);