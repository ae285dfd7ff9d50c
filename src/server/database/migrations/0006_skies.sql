CREATE TABLE "sky" (
	"asset" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"group" text NOT NULL,
	"reads" jsonb,
	"added" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "sky" ADD CONSTRAINT "sky_asset_asset_sha256_fk" FOREIGN KEY ("asset") REFERENCES "public"."asset"("sha256") ON DELETE no action ON UPDATE no action;