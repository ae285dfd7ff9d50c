DROP TABLE "mask_picture" CASCADE;--> statement-breakpoint
DROP TABLE "sky" CASCADE;