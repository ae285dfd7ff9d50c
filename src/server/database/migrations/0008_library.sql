CREATE TABLE "library_picture" (
	"kind" text NOT NULL,
	"asset" text NOT NULL,
	"name" text NOT NULL,
	"group" text DEFAULT '' NOT NULL,
	"reads" jsonb,
	"added" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "library_picture_kind_asset_pk" PRIMARY KEY("kind","asset")
);
--> statement-breakpoint
ALTER TABLE "asset" ADD COLUMN "name" text;--> statement-breakpoint
ALTER TABLE "library_picture" ADD CONSTRAINT "library_picture_asset_asset_sha256_fk" FOREIGN KEY ("asset") REFERENCES "public"."asset"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "library_picture_asset" ON "library_picture" USING btree ("asset");--> statement-breakpoint
INSERT INTO "library_picture" ("kind", "asset", "name", "added") SELECT 'mask', "asset", "name", "added" FROM "mask_picture";--> statement-breakpoint
INSERT INTO "library_picture" ("kind", "asset", "name", "group", "reads", "added") SELECT 'sky', "asset", "name", "group", "reads", "added" FROM "sky";--> statement-breakpoint
-- What a picture was called is known from the layers that show it.
UPDATE "asset" SET "name" = "shown"."name" FROM (
	SELECT DISTINCT ON ("layer"->>'asset') "layer"->>'asset' AS "asset", "layer"->>'name' AS "name"
	FROM (
		SELECT jsonb_path_query("initial", '$.layers[*] ? (@.kind == "picture")') AS "layer" FROM "project"
		UNION ALL
		SELECT jsonb_path_query("forward", '$.fields.in.layers.entries.add[*][1] ? (@.kind == "picture")') FROM "act" WHERE "label" LIKE 'Add %'
	) AS "layers"
	ORDER BY "layer"->>'asset'
) AS "shown" WHERE "shown"."asset" = "asset"."sha256";
