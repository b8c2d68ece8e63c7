"""The comp in the window: the picture over or under the sheet, the measuring, and its panel on the bench."""
