DROP TABLE fonts;
