CREATE TABLE "mask_picture" (
	"asset" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"added" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "mask_picture" ADD CONSTRAINT "mask_picture_asset_asset_sha256_fk" FOREIGN KEY ("asset") REFERENCES "public"."asset"("sha256") ON DELETE no action ON UPDATE no action;