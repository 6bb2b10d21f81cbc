CREATE TABLE "wind_logs" (
	"id" uuid PRIMARY KEY NOT NULL,
	"session_id" uuid NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone NOT NULL,
	"along_mps" double precision[] NOT NULL,
	"across_mps" double precision[] NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "wind_logs_even" CHECK (cardinality("wind_logs"."along_mps") = cardinality("wind_logs"."across_mps"))
);
--> statement-breakpoint
ALTER TABLE "wind_logs" ADD CONSTRAINT "wind_logs_session_id_sessions_id_fk" FOREIGN KEY ("session_id") REFERENCES "public"."sessions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "wind_logs_of_session" ON "wind_logs" USING btree ("session_id","started_at");