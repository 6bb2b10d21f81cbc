ALTER TABLE "places" ADD COLUMN "lat_deg" double precision;--> statement-breakpoint
ALTER TABLE "places" ADD COLUMN "lon_deg" double precision;--> statement-breakpoint
ALTER TABLE "places" ADD CONSTRAINT "places_lat" CHECK ("places"."lat_deg" between -90 and 90);--> statement-breakpoint
ALTER TABLE "places" ADD CONSTRAINT "places_lon" CHECK ("places"."lon_deg" between -180 and 180);