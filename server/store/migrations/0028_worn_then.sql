CREATE TRIGGER wear_notes_written AFTER INSERT OR UPDATE OR DELETE ON "wear_notes" FOR EACH STATEMENT EXECUTE FUNCTION note_anything();--> statement-breakpoint
CREATE TRIGGER plastic_wear_written AFTER INSERT OR UPDATE OR DELETE ON "plastic_wear" FOR EACH STATEMENT EXECUTE FUNCTION note_anything();
