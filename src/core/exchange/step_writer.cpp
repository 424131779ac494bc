#include "exchange/step_writer.h"

#include "base/error.h"

#include <mutex>
#include <sstream>

#include <APIHeaderSection_MakeHeader.hxx>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_Messenger.hxx>
#include <Message_PrinterOStream.hxx>
#include <STEPControl_Controller.hxx>
#include <STEPControl_Writer.hxx>
#include <StepBasic_Product.hxx>
#include <StepData_Protocol.hxx>
#include <StepData_StepModel.hxx>
#include <StepData_StepWriter.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TopoDS_Shape.hxx>
#include <XSControl_WorkSession.hxx>

namespace wren {

std::string stepText(const TopoDS_Shape& shape, const std::string& name) {
    static std::mutex oneAtATime; // the library's settings are global
    const std::lock_guard lock(oneAtATime);
    Message::DefaultMessenger()->RemovePrinters(STANDARD_TYPE(Message_PrinterOStream));
    STEPControl_Controller::Init();
    Interface_Static::SetCVal("write.step.unit", "MM");
    Interface_Static::SetCVal("write.step.schema", "AP214IS");
    Interface_Static::SetIVal("write.surfacecurve.mode", 0);
    Interface_Static::SetCVal("write.step.product.name", name.c_str());
    STEPControl_Writer writer;
    if (writer.Transfer(shape, STEPControl_AsIs) != IFSelect_RetDone) {
        throw Error("The solid could not be written as STEP.");
    }
    const Handle(StepData_StepModel) model = writer.Model();
    APIHeaderSection_MakeHeader header(model);
    header.SetName(new TCollection_HAsciiString(name.c_str()));
    header.SetTimeStamp(new TCollection_HAsciiString("1970-01-01T00:00:00"));
    header.SetOriginatingSystem(new TCollection_HAsciiString("Upland Wren"));
    header.Apply(model);
    // The library counts the products it has ever written into their names.
    for (int i = 1; i <= model->NbEntities(); ++i) {
        const Handle(StepBasic_Product) product =
            Handle(StepBasic_Product)::DownCast(model->Value(i));
        if (!product.IsNull()) {
            product->SetId(new TCollection_HAsciiString(name.c_str()));
            product->SetName(new TCollection_HAsciiString(name.c_str()));
        }
    }
    StepData_StepWriter text(model);
    text.SendModel(Handle(StepData_Protocol)::DownCast(writer.WS()->Protocol()));
    std::ostringstream out;
    if (!text.Print(out)) {
        throw Error("The solid could not be written as STEP.");
    }
    return out.str();
}

} // namespace wren
