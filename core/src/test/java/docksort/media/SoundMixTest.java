package docksort.media;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.media.SoundMix.Share;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SoundMixTest {
    @Test
    void channelsAreMeansOfThoseTheyName() {
        SoundMix mix = SoundMix.parse(" 1 + 3,ALL");
        assertThat(mix).hasToString("1+3, all").isEqualTo(SoundMix.parse(mix.toString()));
        assertThat(mix.highest()).isEqualTo(3);
        assertThat(mix.shares(4))
                .containsExactly(
                        List.of(new Share(0, 0.5), new Share(2, 0.5)),
                        List.of(new Share(0, 0.25), new Share(1, 0.25), new Share(2, 0.25), new Share(3, 0.25)));
        assertThat(SoundMix.parse(" ")).isEqualTo(SoundMix.KEPT);
    }

    @Test
    void streamsHoldTheChannelsTheyName() {
        SoundMix mix = SoundMix.parse("2;1+3 , all");
        assertThat(mix).hasToString("2; 1+3, all").isEqualTo(SoundMix.parse(mix.toString()));
        assertThat(mix.sizes(4)).containsExactly(1, 2);
        SoundMix each = SoundMix.parse(" Each ");
        assertThat(each).hasToString("each").isEqualTo(SoundMix.EACH);
        assertThat(each.isKept()).isFalse();
        assertThat(each.sizes(3)).containsExactly(1, 1, 1);
        assertThat(each.shares(2)).containsExactly(List.of(new Share(0, 1)), List.of(new Share(1, 1)));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"1+", "0", "65", "1;;2", "each, 1", "1; each", "all+1", ",", "1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1,1"
            })
    void whatIsNoMixIsRefused(String text) {
        assertThatThrownBy(() -> SoundMix.parse(text)).isInstanceOf(IllegalArgumentException.class);
    }

    /// Copies that were made before there were mixes stay what they were.
    @Test
    void withoutAMixTheMarkOfARecipeIsWhatItWas() {
        assertThat(new SoundForm(16, 48_000, List.of(2)))
                .hasToString("SoundForm[bits=16, samplesPerSecond=48000, muted=[2]]");
        assertThatThrownBy(() -> new SoundForm(0, 0, List.of(1), SoundMix.parse("2")))
                .hasMessageContaining("muted");
    }
}
