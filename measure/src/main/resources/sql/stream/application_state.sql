select application_id, state, valid_from, valid_until from application_state
