-- Rules of the ground before document version 6 are brought up by db/upgradeLevels, with the code that opens packages.
SELECT 1;
