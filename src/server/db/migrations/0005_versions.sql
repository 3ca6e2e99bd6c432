CREATE TABLE "original_parts" (
	"digest" text NOT NULL,
	"position" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	"stored_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "original_parts_digest_position_pk" PRIMARY KEY("digest","position")
);
--> statement-breakpoint
ALTER TABLE "originals" ALTER COLUMN "file" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "journal" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "journal" ADD COLUMN "step_id" text;--> statement-breakpoint
ALTER TABLE "journal" ADD COLUMN "inverse" jsonb;--> statement-breakpoint
ALTER TABLE "journal" ADD COLUMN "made_by" jsonb;--> statement-breakpoint
ALTER TABLE "originals" ADD COLUMN "stored_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "pictures" ADD COLUMN "stored_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "receipts" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "settings" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;