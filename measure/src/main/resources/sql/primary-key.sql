select id, active, unit from now_person where p = ?
