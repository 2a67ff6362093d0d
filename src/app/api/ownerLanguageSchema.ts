import { z } from "zod";
import { OWNER_LANGUAGE_IDS } from "@/core/handover/owner/words/ownerLanguages";

/** A language that the owner's page is written in. */
export const ownerLanguageSchema = z.enum(OWNER_LANGUAGE_IDS);
