"""One model per kind of part. Field names end in their unit; descriptions feed the help texts of every screen."""
