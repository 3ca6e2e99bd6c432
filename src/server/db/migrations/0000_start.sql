CREATE TABLE "drawings" (
	"project_id" text NOT NULL,
	"level_id" text NOT NULL,
	"id" text NOT NULL,
	"position" integer NOT NULL,
	"number" text NOT NULL,
	"role" text NOT NULL,
	"picture" text,
	CONSTRAINT "drawings_project_id_id_pk" PRIMARY KEY("project_id","id")
);
--> statement-breakpoint
CREATE TABLE "exposures" (
	"project_id" text NOT NULL,
	"level_id" text NOT NULL,
	"position" integer NOT NULL,
	"drawing_id" text,
	"frames" integer NOT NULL,
	CONSTRAINT "exposures_project_id_level_id_position_pk" PRIMARY KEY("project_id","level_id","position")
);
--> statement-breakpoint
CREATE TABLE "journal" (
	"project_id" text NOT NULL,
	"revision" integer NOT NULL,
	"batch_id" text NOT NULL,
	"step" jsonb NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "journal_project_id_revision_pk" PRIMARY KEY("project_id","revision")
);
--> statement-breakpoint
CREATE TABLE "levels" (
	"project_id" text NOT NULL,
	"shot_id" text NOT NULL,
	"id" text NOT NULL,
	"position" integer NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"visible" boolean NOT NULL,
	"opacity_percent" integer NOT NULL,
	CONSTRAINT "levels_project_id_id_pk" PRIMARY KEY("project_id","id")
);
--> statement-breakpoint
CREATE TABLE "pictures" (
	"digest" text PRIMARY KEY NOT NULL,
	"width_px" integer NOT NULL,
	"height_px" integer NOT NULL,
	"size_bytes" integer NOT NULL,
	"png" "bytea" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "projects" (
	"id" text PRIMARY KEY NOT NULL,
	"title" text NOT NULL,
	"rate_num" integer NOT NULL,
	"rate_den" integer NOT NULL,
	"width_px" integer NOT NULL,
	"height_px" integer NOT NULL,
	"start_frame" integer NOT NULL,
	"revision" integer DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"kept_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "receipts" (
	"id" text PRIMARY KEY NOT NULL,
	"project_id" text NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"body" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "shots" (
	"project_id" text NOT NULL,
	"id" text NOT NULL,
	"position" integer NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"note" text NOT NULL,
	"frames" integer NOT NULL,
	"notes" jsonb NOT NULL,
	CONSTRAINT "shots_project_id_id_pk" PRIMARY KEY("project_id","id")
);
--> statement-breakpoint
ALTER TABLE "drawings" ADD CONSTRAINT "drawings_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drawings" ADD CONSTRAINT "drawings_picture_pictures_digest_fk" FOREIGN KEY ("picture") REFERENCES "public"."pictures"("digest") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "drawings" ADD CONSTRAINT "drawings_project_id_level_id_levels_project_id_id_fk" FOREIGN KEY ("project_id","level_id") REFERENCES "public"."levels"("project_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exposures" ADD CONSTRAINT "exposures_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "exposures" ADD CONSTRAINT "exposures_project_id_level_id_levels_project_id_id_fk" FOREIGN KEY ("project_id","level_id") REFERENCES "public"."levels"("project_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal" ADD CONSTRAINT "journal_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "levels" ADD CONSTRAINT "levels_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "levels" ADD CONSTRAINT "levels_project_id_shot_id_shots_project_id_id_fk" FOREIGN KEY ("project_id","shot_id") REFERENCES "public"."shots"("project_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "receipts" ADD CONSTRAINT "receipts_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shots" ADD CONSTRAINT "shots_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "journal_batch" ON "journal" USING btree ("project_id","batch_id");