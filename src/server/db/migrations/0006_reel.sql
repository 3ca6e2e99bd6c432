ALTER TABLE "projects" RENAME COLUMN "start_frame" TO "first_frame_number";--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "reel" jsonb DEFAULT '{"items":[]}'::jsonb NOT NULL;