CREATE TABLE "act" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project" uuid NOT NULL,
	"seq" integer NOT NULL,
	"parent" uuid,
	"label" text NOT NULL,
	"forward" jsonb NOT NULL,
	"inverse" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "asset" (
	"sha256" text PRIMARY KEY NOT NULL,
	"media_type" text NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"bytes" bigint NOT NULL,
	"converted" integer DEFAULT 0 NOT NULL,
	"created" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "project" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"width" integer NOT NULL,
	"height" integer NOT NULL,
	"initial" jsonb NOT NULL,
	"head" uuid,
	"cover" "bytea",
	"created" timestamp with time zone DEFAULT now() NOT NULL,
	"changed" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "snapshot" (
	"act" uuid PRIMARY KEY NOT NULL,
	"project" uuid NOT NULL,
	"records" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "act" ADD CONSTRAINT "act_project_project_id_fk" FOREIGN KEY ("project") REFERENCES "public"."project"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "snapshot" ADD CONSTRAINT "snapshot_act_act_id_fk" FOREIGN KEY ("act") REFERENCES "public"."act"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "snapshot" ADD CONSTRAINT "snapshot_project_project_id_fk" FOREIGN KEY ("project") REFERENCES "public"."project"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "act_project_seq" ON "act" USING btree ("project","seq");--> statement-breakpoint
CREATE INDEX "project_changed" ON "project" USING btree ("changed");