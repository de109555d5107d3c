package eleutheria.server.web;

import static java.util.Objects.requireNonNull;

import com.fasterxml.jackson.databind.JavaType;
import io.swagger.v3.core.converter.AnnotatedType;
import io.swagger.v3.core.converter.ModelConverter;
import io.swagger.v3.core.converter.ModelConverterContext;
import io.swagger.v3.core.util.Json;
import io.swagger.v3.oas.models.media.Schema;
import java.lang.reflect.RecordComponent;
import java.util.Iterator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Tells the API document which fields of a record may be null, from their annotation. */
@Component
class NullableFields implements ModelConverter {
  @Override
  @SuppressWarnings({"rawtypes", "unchecked"})
  public @Nullable Schema resolve(
      AnnotatedType type, ModelConverterContext context, Iterator<ModelConverter> chain) {
    if (!chain.hasNext()) {
      return null;
    }
    Schema schema = chain.next().resolve(type, context, chain);
    JavaType java = Json.mapper().constructType(type.getType());
    if (java == null || !java.getRawClass().isRecord()) {
      return schema;
    }
    Schema model = context.getDefinedModels().get(java.getRawClass().getSimpleName());
    if (model == null || model.getProperties() == null) {
      return schema;
    }
    for (RecordComponent component : java.getRawClass().getRecordComponents()) {
      if (component.getAnnotatedType().isAnnotationPresent(Nullable.class)) {
        Schema property = requireNonNull((Schema) model.getProperties().get(component.getName()));
        model.getProperties().put(component.getName(), nullable(property));
      }
    }
    return schema;
  }

  @SuppressWarnings({"rawtypes", "unchecked"})
  private static Schema nullable(Schema property) {
    Schema nothing = new Schema<>();
    nothing.setTypes(Set.of("null"));
    if (property.get$ref() != null) {
      Schema either = new Schema<>();
      either.setOneOf(List.of(property, nothing));
      return either;
    }
    if (property.getOneOf() == null) {
      Set<String> types = new LinkedHashSet<>();
      if (property.getTypes() != null) {
        types.addAll(property.getTypes());
      } else if (property.getType() != null) {
        types.add(property.getType());
      }
      types.add("null");
      property.setTypes(types);
    }
    return property;
  }
}
