package docksort;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import org.junit.jupiter.api.Tag;

/// Makes or reads media by the engine, or shows the window: left out by `./dock-sort test --quick`.
@Tag("media")
@Target(ElementType.TYPE)
@Retention(RetentionPolicy.RUNTIME)
public @interface WithMedia {}
