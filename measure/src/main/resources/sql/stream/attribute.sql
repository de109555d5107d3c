select person_id, name, value, valid_from, valid_until from attribute
