CREATE TABLE "attempts" (
	"key" text PRIMARY KEY NOT NULL,
	"points" integer NOT NULL,
	"expire" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "device_keys" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"name" text NOT NULL,
	"digest" text NOT NULL,
	"seen_at" timestamp with time zone DEFAULT now() NOT NULL,
	"revoked_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "device_keys_digest_unique" UNIQUE("digest"),
	CONSTRAINT "device_keys_name" CHECK (length(trim("device_keys"."name")) between 1 and 120)
);
--> statement-breakpoint
CREATE TABLE "passes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"digest" text NOT NULL,
	"person_id" uuid,
	"role" text,
	"made_by_id" uuid NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "passes_digest_unique" UNIQUE("digest"),
	CONSTRAINT "passes_kind" CHECK ("passes"."kind" in ('pairing', 'invitation')),
	CONSTRAINT "passes_role" CHECK ("passes"."role" in ('reader', 'scribe', 'owner')),
	CONSTRAINT "passes_for" CHECK (("passes"."kind" = 'pairing') = ("passes"."person_id" is not null) and ("passes"."kind" = 'invitation') = ("passes"."role" is not null))
);
--> statement-breakpoint
CREATE TABLE "people" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"role" text NOT NULL,
	"passphrase" text,
	"removed_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "people_name" CHECK (length(trim("people"."name")) between 1 and 120),
	CONSTRAINT "people_role" CHECK ("people"."role" in ('reader', 'scribe', 'owner'))
);
--> statement-breakpoint
CREATE TABLE "throw_versions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"throw_id" uuid NOT NULL,
	"replaced_at" timestamp with time zone DEFAULT clock_timestamp() NOT NULL,
	"was" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "short_throws" ADD COLUMN "by_person_id" uuid;--> statement-breakpoint
ALTER TABLE "short_throws" ADD COLUMN "by_key_id" uuid;--> statement-breakpoint
ALTER TABLE "short_throws" ADD COLUMN "written_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "throws" ADD COLUMN "by_person_id" uuid;--> statement-breakpoint
ALTER TABLE "throws" ADD COLUMN "by_key_id" uuid;--> statement-breakpoint
ALTER TABLE "throws" ADD COLUMN "written_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "device_keys" ADD CONSTRAINT "device_keys_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passes" ADD CONSTRAINT "passes_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passes" ADD CONSTRAINT "passes_made_by_id_people_id_fk" FOREIGN KEY ("made_by_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "people_name_once" ON "people" USING btree (lower("name"));--> statement-breakpoint
CREATE INDEX "throw_versions_of_throw" ON "throw_versions" USING btree ("throw_id","replaced_at");--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_by_person_id_people_id_fk" FOREIGN KEY ("by_person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "short_throws" ADD CONSTRAINT "short_throws_by_key_id_device_keys_id_fk" FOREIGN KEY ("by_key_id") REFERENCES "public"."device_keys"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "throws" ADD CONSTRAINT "throws_by_person_id_people_id_fk" FOREIGN KEY ("by_person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "throws" ADD CONSTRAINT "throws_by_key_id_device_keys_id_fk" FOREIGN KEY ("by_key_id") REFERENCES "public"."device_keys"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE FUNCTION keep_throw_version() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	IF OLD IS DISTINCT FROM NEW THEN
		INSERT INTO throw_versions (throw_id, was) VALUES (OLD.id, to_jsonb(OLD));
	END IF;
	RETURN NULL;
END
$$;--> statement-breakpoint
CREATE TRIGGER throws_keep_version AFTER UPDATE ON "throws" FOR EACH ROW EXECUTE FUNCTION keep_throw_version();--> statement-breakpoint
CREATE TRIGGER short_throws_keep_version AFTER UPDATE ON "short_throws" FOR EACH ROW EXECUTE FUNCTION keep_throw_version();
