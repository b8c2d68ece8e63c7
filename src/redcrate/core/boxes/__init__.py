"""Box generation: styled elements → boxes (CSS Display 3, CSS 2.2 §9.2)."""
