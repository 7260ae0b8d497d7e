package docksort.files;

import freemarker.template.Configuration;
import freemarker.template.TemplateException;
import freemarker.template.TemplateExceptionHandler;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.util.Locale;
import java.util.Map;

/// Fills the templates of pages that people read and print.
public final class Pages {
    private Pages() {}

    /// @param beside a class in whose package the template lies
    /// @param template its file name; one that ends in `.ftlh` escapes what it is filled with
    public static String fill(Class<?> beside, String template, Map<String, Object> values) {
        var configuration = new Configuration(Configuration.VERSION_2_3_34);
        configuration.setClassForTemplateLoading(
                beside, "/" + beside.getPackageName().replace('.', '/'));
        configuration.setDefaultEncoding("UTF-8");
        configuration.setLocale(Locale.ROOT);
        configuration.setTemplateExceptionHandler(TemplateExceptionHandler.RETHROW_HANDLER);
        configuration.setLogTemplateExceptions(false);
        var out = new StringWriter();
        try {
            configuration.getTemplate(template).process(values, out);
        } catch (TemplateException e) {
            throw new IllegalStateException("the template " + template + " does not fit", e);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return out.toString();
    }
}
