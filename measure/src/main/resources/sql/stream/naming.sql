select person_id, given, family, displayed, name_key, valid_from, valid_until from naming
