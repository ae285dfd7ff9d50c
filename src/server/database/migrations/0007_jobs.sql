CREATE TABLE "batch" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"plan" jsonb NOT NULL,
	"state" text NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	"changed" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "batch_picture" (
	"batch" uuid NOT NULL,
	"number" integer NOT NULL,
	"asset" text NOT NULL,
	"name" text NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"state" text DEFAULT 'new' NOT NULL,
	"run" integer DEFAULT 0 NOT NULL,
	"selected" real,
	"doubt" real,
	"note" text,
	"problem" text,
	"ms" integer,
	"bytes" bigint,
	"project" uuid,
	"touched" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "batch_picture_batch_number_pk" PRIMARY KEY("batch","number")
);
--> statement-breakpoint
CREATE TABLE "exported" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project" uuid NOT NULL,
	"input" jsonb NOT NULL,
	"state" text NOT NULL,
	"progress" real DEFAULT 0 NOT NULL,
	"name" text NOT NULL,
	"media_type" text NOT NULL,
	"bytes" bigint,
	"picture" jsonb,
	"problem" text,
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	"touched" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "batch_picture" ADD CONSTRAINT "batch_picture_batch_batch_id_fk" FOREIGN KEY ("batch") REFERENCES "public"."batch"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "batch_picture" ADD CONSTRAINT "batch_picture_asset_asset_sha256_fk" FOREIGN KEY ("asset") REFERENCES "public"."asset"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "batch_picture" ADD CONSTRAINT "batch_picture_project_project_id_fk" FOREIGN KEY ("project") REFERENCES "public"."project"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exported" ADD CONSTRAINT "exported_project_project_id_fk" FOREIGN KEY ("project") REFERENCES "public"."project"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "batch_picture_state" ON "batch_picture" USING btree ("batch","state");--> statement-breakpoint
CREATE INDEX "batch_picture_doubt" ON "batch_picture" USING btree ("batch","doubt");--> statement-breakpoint
CREATE INDEX "batch_picture_asset" ON "batch_picture" USING btree ("asset");--> statement-breakpoint
CREATE INDEX "exported_project_state" ON "exported" USING btree ("project","state");--> statement-breakpoint
CREATE INDEX "exported_touched" ON "exported" USING btree ("touched");