CREATE TABLE "moments" (
	"project_id" text NOT NULL,
	"revision" integer NOT NULL,
	"name" text NOT NULL,
	"named_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "moments_project_id_revision_pk" PRIMARY KEY("project_id","revision")
);
--> statement-breakpoint
CREATE TABLE "shots_in_hand" (
	"project_id" text NOT NULL,
	"shot_id" text NOT NULL,
	"person_id" text NOT NULL,
	"name" text NOT NULL,
	"colour" text NOT NULL,
	"taken_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "shots_in_hand_project_id_shot_id_pk" PRIMARY KEY("project_id","shot_id")
);
--> statement-breakpoint
CREATE TABLE "snapshots" (
	"project_id" text NOT NULL,
	"revision" integer NOT NULL,
	"version" integer NOT NULL,
	"document" jsonb NOT NULL,
	CONSTRAINT "snapshots_project_id_revision_pk" PRIMARY KEY("project_id","revision")
);
--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "put_away_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "moments" ADD CONSTRAINT "moments_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shots_in_hand" ADD CONSTRAINT "shots_in_hand_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "snapshots" ADD CONSTRAINT "snapshots_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;