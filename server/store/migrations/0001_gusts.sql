ALTER TABLE "throws" ADD COLUMN "wind_sd_mps" double precision;--> statement-breakpoint
ALTER TABLE "throws" ADD CONSTRAINT "throws_wind_sd_mps" CHECK ("throws"."wind_sd_mps" between 0 and 10);