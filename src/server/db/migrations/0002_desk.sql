CREATE TABLE "originals" (
	"digest" text PRIMARY KEY NOT NULL,
	"size_bytes" integer NOT NULL,
	"file" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "settings" (
	"name" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sources" (
	"project_id" text NOT NULL,
	"original" text NOT NULL,
	"file_name" text NOT NULL,
	"level_id" text NOT NULL,
	"brought_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "sources_project_id_original_file_name_level_id_pk" PRIMARY KEY("project_id","original","file_name","level_id")
);
--> statement-breakpoint
ALTER TABLE "levels" ADD COLUMN "locked" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "levels" ADD COLUMN "blend" text DEFAULT 'normal' NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "palette" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "sources" ADD CONSTRAINT "sources_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sources" ADD CONSTRAINT "sources_original_originals_digest_fk" FOREIGN KEY ("original") REFERENCES "public"."originals"("digest") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
UPDATE "projects" SET "palette" = '["#1d2a23","#c4553a","#37808a","#e3b94d","#8fae72","#ffffff"]'::jsonb;