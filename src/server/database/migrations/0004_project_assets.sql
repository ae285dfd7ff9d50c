CREATE TABLE "project_asset" (
	"project" uuid NOT NULL,
	"asset" text NOT NULL,
	CONSTRAINT "project_asset_project_asset_pk" PRIMARY KEY("project","asset")
);
--> statement-breakpoint
ALTER TABLE "project_asset" ADD CONSTRAINT "project_asset_project_project_id_fk" FOREIGN KEY ("project") REFERENCES "public"."project"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "project_asset" ADD CONSTRAINT "project_asset_asset_asset_sha256_fk" FOREIGN KEY ("asset") REFERENCES "public"."asset"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "project_asset_asset" ON "project_asset" USING btree ("asset");--> statement-breakpoint
-- What the projects of before name: every SHA-256 in their records and changes that is a stored picture.
INSERT INTO "project_asset" ("project", "asset")
SELECT DISTINCT "named"."project", "named"."sha256" FROM (
  SELECT "id" AS "project", (regexp_matches("initial"::text, '[0-9a-f]{64}', 'g'))[1] AS "sha256" FROM "project"
  UNION ALL
  SELECT "project", (regexp_matches("forward"::text, '[0-9a-f]{64}', 'g'))[1] FROM "act"
) AS "named" JOIN "asset" ON "asset"."sha256" = "named"."sha256"
ON CONFLICT DO NOTHING;
