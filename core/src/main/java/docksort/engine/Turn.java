package docksort.engine;

/// A turn of a picture by right angles, clockwise, from how it is coded to how it is looked at.
enum Turn {
    NONE,
    QUARTER,
    HALF,
    THREE_QUARTERS;

    /// @param degrees a multiple of 90 from 0 on
    static Turn of(int degrees) {
        return values()[degrees / 90 % values().length];
    }

    /// Whether width and height change places.
    boolean isLying() {
        return this == QUARTER || this == THREE_QUARTERS;
    }

    /// Where a part of the turned picture lies in the coded one.
    ///
    /// @param part left, top, width and height
    /// @param width of the coded picture
    int[] coded(int[] part, int width, int height) {
        return switch (this) {
            case NONE -> part;
            case QUARTER -> new int[] {part[1], height - part[0] - part[2], part[3], part[2]};
            case HALF -> new int[] {width - part[0] - part[2], height - part[1] - part[3], part[2], part[3]};
            case THREE_QUARTERS -> new int[] {width - part[1] - part[3], part[0], part[3], part[2]};
        };
    }

    /// @param pixels a coded picture, line by line
    /// @param width of the coded picture
    /// @param size bytes of a pixel
    byte[] turned(byte[] pixels, int width, int height, int size) {
        if (this == NONE) {
            return pixels;
        }
        byte[] turned = new byte[pixels.length];
        for (int y = 0; y < height; y++) {
            for (int x = 0; x < width; x++) {
                int to = switch (this) {
                    case NONE -> y * width + x;
                    case QUARTER -> x * height + height - 1 - y;
                    case HALF -> (height - 1 - y) * width + width - 1 - x;
                    case THREE_QUARTERS -> (width - 1 - x) * height + y;
                };
                System.arraycopy(pixels, (y * width + x) * size, turned, to * size, size);
            }
        }
        return turned;
    }
}
