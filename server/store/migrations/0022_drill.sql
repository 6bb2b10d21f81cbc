CREATE TABLE "drill_answers" (
	"id" uuid PRIMARY KEY NOT NULL,
	"thrower_id" uuid,
	"answered_at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"level" double precision NOT NULL,
	"truth" jsonb NOT NULL,
	"answer" jsonb NOT NULL,
	"like" jsonb NOT NULL,
	"is_right" boolean NOT NULL,
	"points" double precision NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "drill_answers_kind" CHECK ("drill_answers"."kind" in ('angle', 'turn', 'fade', 'nose', 'cause', 'more stable', 'stood up', 'landing')),
	CONSTRAINT "drill_answers_level" CHECK ("drill_answers"."level" between 0 and 1)
);
--> statement-breakpoint
ALTER TABLE "drill_answers" ADD CONSTRAINT "drill_answers_thrower_id_throwers_id_fk" FOREIGN KEY ("thrower_id") REFERENCES "public"."throwers"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "drill_answers_when" ON "drill_answers" USING btree ("answered_at");