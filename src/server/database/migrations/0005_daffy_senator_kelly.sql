CREATE TABLE "result" (
	"project" uuid NOT NULL,
	"name" text NOT NULL,
	"version" text NOT NULL,
	"bytes" integer NOT NULL,
	"used" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "result_project_name_pk" PRIMARY KEY("project","name")
);
--> statement-breakpoint
ALTER TABLE "result" ADD CONSTRAINT "result_project_project_id_fk" FOREIGN KEY ("project") REFERENCES "public"."project"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "result_used" ON "result" USING btree ("used");