"""The party register: what an entry may hold, when two entries are one, what a letterhead tells, the table as CSV."""
