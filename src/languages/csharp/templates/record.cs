__doc__
[JsonObject(MemberSerialization.OptIn), JsonConverter(typeof(RecordConverter))]
public sealed class __Record____parents__
{
    __members__
}
