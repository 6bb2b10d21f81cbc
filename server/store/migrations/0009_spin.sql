ALTER TABLE "throws" ADD COLUMN "spin_rpm" double precision;--> statement-breakpoint
ALTER TABLE "throws" ADD CONSTRAINT "throws_spin_rpm" CHECK ("throws"."spin_rpm" between 60 and 3000);