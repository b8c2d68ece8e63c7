"""Flex containers: one module for each part of CSS Flexbox 1 §9."""
