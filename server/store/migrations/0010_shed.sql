CREATE TABLE "shed" (
	"id" integer PRIMARY KEY NOT NULL,
	"demo" text NOT NULL,
	CONSTRAINT "shed_one" CHECK ("shed"."id" = 1),
	CONSTRAINT "shed_demo" CHECK ("shed"."demo" in ('here', 'away'))
);
