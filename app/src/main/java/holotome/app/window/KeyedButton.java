package holotome.app.window;

import javafx.geometry.HPos;
import javafx.geometry.VPos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.Region;

/**
 * A button as wide as the Sheet, with the key that does the same at its right end. Where there is
 * not room for both, the words have it.
 */
final class KeyedButton extends Button {
  private static final double GAP = 8;

  private final Label words = new Label();
  private final Label key;

  /**
   * @param key for reading; empty for none
   * @param style of the button
   */
  KeyedButton(String text, String key, String style) {
    this.key = new Label(key);
    words.getStyleClass().add("words");
    this.key.getStyleClass().add("key");
    setWords(text);
    Face face = new Face();
    face.prefWidthProperty().bind(widthProperty().subtract(26));
    face.setMaxWidth(Double.MAX_VALUE);
    setGraphic(face);
    getStyleClass().setAll(style);
    setMaxWidth(Double.MAX_VALUE);
  }

  void setWords(String text) {
    words.setText(text);
    setAccessibleText(text);
  }

  private final class Face extends Region {
    Face() {
      getChildren().addAll(words, key);
    }

    @Override
    protected double computePrefHeight(double width) {
      return Math.max(words.prefHeight(-1), key.prefHeight(-1));
    }

    @Override
    protected double computeMinWidth(double height) {
      return 0;
    }

    @Override
    protected void layoutChildren() {
      double w = getWidth();
      double h = getHeight();
      double wanted = words.prefWidth(-1);
      double end = key.prefWidth(-1);
      boolean both = wanted + GAP + end <= w;
      key.setVisible(both);
      layoutInArea(words, 0, 0, Math.min(wanted, w), h, 0, HPos.LEFT, VPos.CENTER);
      layoutInArea(key, w - end, 0, end, h, 0, HPos.RIGHT, VPos.CENTER);
    }
  }
}
