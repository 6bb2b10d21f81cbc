CREATE TABLE "inspections" (
	"id" uuid PRIMARY KEY NOT NULL,
	"disc_id" uuid NOT NULL,
	"day" date NOT NULL,
	"diameter_mm" double precision,
	"height_mm" double precision,
	"rim_depth_mm" double precision,
	"rim_width_mm" double precision,
	"parting_line_mm" double precision,
	"dome_mm" double precision,
	"nose_deg" double precision,
	"warp_mm" double precision,
	"bead" boolean,
	"edge" integer,
	"stiffness" integer,
	"grip" integer,
	"temperature_c" double precision,
	"note" text DEFAULT '' NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "inspections_diameter_mm" CHECK ("inspections"."diameter_mm" between 180 and 300),
	CONSTRAINT "inspections_height_mm" CHECK ("inspections"."height_mm" between 10 and 40),
	CONSTRAINT "inspections_rim_depth_mm" CHECK ("inspections"."rim_depth_mm" between 5 and 25),
	CONSTRAINT "inspections_rim_width_mm" CHECK ("inspections"."rim_width_mm" between 4 and 27),
	CONSTRAINT "inspections_parting_line_mm" CHECK ("inspections"."parting_line_mm" between 1 and 25),
	CONSTRAINT "inspections_dome_mm" CHECK ("inspections"."dome_mm" between -3 and 12),
	CONSTRAINT "inspections_nose_deg" CHECK ("inspections"."nose_deg" between 5 and 85),
	CONSTRAINT "inspections_warp_mm" CHECK ("inspections"."warp_mm" between 0 and 10),
	CONSTRAINT "inspections_edge" CHECK ("inspections"."edge" between 0 and 4),
	CONSTRAINT "inspections_stiffness" CHECK ("inspections"."stiffness" between 0 and 4),
	CONSTRAINT "inspections_grip" CHECK ("inspections"."grip" between 0 and 4),
	CONSTRAINT "inspections_temperature" CHECK ("inspections"."temperature_c" between -40 and 55)
);
--> statement-breakpoint
CREATE TABLE "photos" (
	"disc_id" uuid PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"bytes" "bytea" NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "photos_kind" CHECK ("photos"."kind" in ('image/jpeg', 'image/png', 'image/webp')),
	CONSTRAINT "photos_size" CHECK (octet_length("photos"."bytes") between 1 and 2000000)
);
--> statement-breakpoint
CREATE TABLE "places" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"field_length_m" double precision,
	"bearing_deg" double precision,
	"altitude_m" double precision,
	"surface" text DEFAULT '' NOT NULL,
	"hazards" text DEFAULT '' NOT NULL,
	"removed_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "places_name" CHECK (length(trim("places"."name")) between 1 and 120),
	CONSTRAINT "places_length" CHECK ("places"."field_length_m" between 20 and 400),
	CONSTRAINT "places_bearing" CHECK ("places"."bearing_deg" between 0 and 360),
	CONSTRAINT "places_altitude" CHECK ("places"."altitude_m" between -450 and 6000)
);
--> statement-breakpoint
CREATE TABLE "ratings" (
	"disc_id" uuid PRIMARY KEY NOT NULL,
	"glide" double precision NOT NULL,
	"turn" double precision NOT NULL,
	"fade" double precision NOT NULL,
	"covariance" double precision[] NOT NULL
);
--> statement-breakpoint
CREATE TABLE "wear_notes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"disc_id" uuid NOT NULL,
	"day" date NOT NULL,
	"throws" integer NOT NULL,
	"hard_hits" integer NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"removed_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "wear_notes_throws" CHECK ("wear_notes"."throws" between 0 and 100000),
	CONSTRAINT "wear_notes_hits" CHECK ("wear_notes"."hard_hits" between 0 and 10000)
);
--> statement-breakpoint
ALTER TABLE "discs" ADD COLUMN "provenance" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "discs" ADD COLUMN "acquired_on" date;--> statement-breakpoint
ALTER TABLE "plastics" ADD COLUMN "claims" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "throwers" ADD COLUMN "budget" jsonb;--> statement-breakpoint
ALTER TABLE "inspections" ADD CONSTRAINT "inspections_disc_id_discs_id_fk" FOREIGN KEY ("disc_id") REFERENCES "public"."discs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "photos" ADD CONSTRAINT "photos_disc_id_discs_id_fk" FOREIGN KEY ("disc_id") REFERENCES "public"."discs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "ratings" ADD CONSTRAINT "ratings_disc_id_discs_id_fk" FOREIGN KEY ("disc_id") REFERENCES "public"."discs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "wear_notes" ADD CONSTRAINT "wear_notes_disc_id_discs_id_fk" FOREIGN KEY ("disc_id") REFERENCES "public"."discs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "inspections_of_disc" ON "inspections" USING btree ("disc_id","day");--> statement-breakpoint
CREATE INDEX "wear_notes_of_disc" ON "wear_notes" USING btree ("disc_id","day");